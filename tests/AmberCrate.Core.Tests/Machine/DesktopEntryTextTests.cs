using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using CsCheck;

namespace AmberCrate.Core.Tests.Machine;

public sealed class DesktopEntryTextTests
{
    private static readonly DesktopEntryStart Start = new("/home/tech/.local/bin/scrim", "%F", "scrim");

    [Fact]
    public void An_entry_is_written_from_a_card()
    {
        var card = CardSamples.With("scrim", "1 2026-01-01") with
        {
            Name = "Scrim\nPaint",
            Categories = ["Graphics"],
            Keywords = ["a;b", "c"],
        };
        DesktopEntryText.Compose(card, Start).ShouldBe("""
            [Desktop Entry]
            Type=Application
            Version=1.1
            Name=Scrim\nPaint
            Comment=Something for the stage
            Exec=/home/tech/.local/bin/scrim %F
            TryExec=/home/tech/.local/bin/scrim
            Icon=scrim
            Categories=Graphics;
            Keywords=a\;b;c;
            Terminal=false

            """);
    }

    [Fact]
    public void A_shipped_entry_keeps_everything_but_how_it_starts() => DesktopEntryText.Adapt("""
        # made by the vendor
        [Desktop Entry]
        Name=Scrim
        Name[de]=Schleier
        TryExec=/opt/scrim
        Exec="/opt/my scrim/scrim" --open %U
        Icon=/opt/scrim.png
        DBusActivatable=true

        [Desktop Action new]
        Name=New
        Exec=scrim --new
        """, Start with { Arguments = "" }).ShouldBe("""
        # made by the vendor
        [Desktop Entry]
        Name=Scrim
        Name[de]=Schleier
        Exec=/home/tech/.local/bin/scrim --open %U
        Type=Application
        TryExec=/home/tech/.local/bin/scrim
        Icon=scrim

        [Desktop Action new]
        Name=New
        Exec=/home/tech/.local/bin/scrim --new

        """);

    /// <summary>A link would open its address, and a working folder or another user would change what is started.</summary>
    [Fact]
    public void A_shipped_entry_does_nothing_but_start_the_command() => DesktopEntryText.Adapt("""
        [Desktop Entry]
        Type=Link
        Name=Scrim
        URL=file:///etc/shadow
        URL[$e]=https://evil.example/
        Path=/tmp/evil
        Path [de]=/tmp/evil
        X-KDE-SubstituteUID=true
        Type=Directory

        [Desktop Action new]
        Exec=scrim
        Path=/tmp/evil
        """, Start with { Arguments = "" }).ShouldBe("""
        [Desktop Entry]
        Type=Application
        Name=Scrim
        TryExec=/home/tech/.local/bin/scrim
        Icon=scrim

        [Desktop Action new]
        Exec=/home/tech/.local/bin/scrim

        """);

    [Theory]
    [InlineData("/home/a b/scrim", "Exec=\"/home/a b/scrim\" %F")]
    [InlineData("/home/100%/scrim", "Exec=/home/100%%/scrim %F")]
    [InlineData("/home/$x/scrim", "Exec=\"/home/\\\\$x/scrim\" %F")]
    public void Commands_are_quoted_as_the_specification_says(string command, string line) =>
        DesktopEntryText.Adapt("[Desktop Entry]\nExec=x\n", Start with { Command = command }).ShouldContain(line + "\n");

    [Fact]
    public void Icons_go_where_the_theme_looks_for_them()
    {
        Icon("scrim", "a/b.svg", "scalable").ShouldBe("scalable/apps/scrim.svg");
        Icon("scrim", "a/b.png", "48x48").ShouldBe("48x48/apps/scrim.png");
        Icon("scrim", "a/b.svg", "symbolic").ShouldBe("symbolic/apps/scrim-symbolic.svg");
    }

    /// <summary>
    /// Whatever a home folder is called, an entry names it so that it is found again, and can follow when it moves.
    /// </summary>
    [Fact]
    public void An_entry_names_any_folder_so_that_it_is_found_again() => (
        from before in Gen.Char["aé /\"'\t\n\\$`%&;|<>()*?#~"].Array[1, 8]
        from after in Gen.Char["aé /\"'\t\n\\$`%&;|<>()*?#~"].Array[1, 8]
        select ("/h" + new string(before), "/h" + new string(after))).Sample((before, after) =>
        {
            var text = DesktopEntryText.Adapt(
                "[Desktop Entry]\nName=a\nExec=x --open %U\n", Start with { Command = before + "/scrim", Arguments = "" });
            DesktopEntryText.FolderOf(text, "scrim").ShouldBe(before);
            var moved = DesktopEntryText.WithFolder(text, before, after);
            DesktopEntryText.FolderOf(moved, "scrim").ShouldBe(after);
            moved.ShouldBe(DesktopEntryText.Adapt(
                "[Desktop Entry]\nName=a\nExec=x --open %U\n", Start with { Command = after + "/scrim", Arguments = "" }));
        }, iter: 2000);

    private static string Icon(string name, string path, string size) =>
        PlacementList.IconName(new PlacedIcon(FileName.Parse(name), InsidePath.Parse(path), size));
}
