namespace AmberCrate.Cli.Tests;

public sealed class PrivateCatalogueTests
{
    private const string Token = "swordfish-in-the-wings";

    [Fact]
    public async Task A_private_catalogue_needs_its_credentials_and_nothing_shows_them()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.RequiredAuthorization = $"Bearer {Token}";
        sandbox.Run("catalogue", "add", "private", sandbox.Server.Address.ToString()).ShouldFail(6, """
            acrate: http://guild/root.json may not be read
              why: the server answers 401: it asks for credentials; the catalogue has not been added
              next: put its token into ACRATE_TOKEN_PRIVATE, or write its credentials into ~/root/.config/amber-crate/catalogue-access.toml
            """);

        Directory.CreateDirectory(sandbox["root", ".config", "amber-crate"]);
        var file = sandbox["root", ".config", "amber-crate", "catalogue-access.toml"];
        File.WriteAllText(file, $"credentials = 1\n\n[guild]\ntoken = \"{Token}\"\n");
        File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.OtherRead);
        sandbox.Run("catalogue", "refresh").ShouldEnd(4).Out.ShouldContain(
            "chmod 600 ~/root/.config/amber-crate/catalogue-access.toml");
        File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        var shown = sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out
            + sandbox.Run("catalogue", "list", "--json").ShouldEnd(0).Out
            + sandbox.Run("about", "scrim-paint", "--json").ShouldEnd(0).Out
            + sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0).Out
            + sandbox.Run("export").ShouldEnd(0).Out;
        shown.ShouldNotContain(Token);
        foreach (var written in Directory.EnumerateFiles(sandbox["root"], "*", SearchOption.AllDirectories)
            .Where(path => path != file))
            System.Text.Encoding.Latin1.GetString(File.ReadAllBytes(written)).ShouldNotContain(Token);
    }

    [Fact]
    public async Task A_run_fetches_artifacts_of_a_private_catalogue_with_credentials_from_the_environment()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.RequiredAuthorization = "Basic " + Convert.ToBase64String("stage:door"u8);
        sandbox.Run("install", "gantry-plot", "--yes").ShouldEnd(6);
        sandbox.Variables["ACRATE_USER_GUILD"] = "stage";
        sandbox.Variables["ACRATE_PASSWORD_GUILD"] = "door";
        sandbox.Prepare.Install("gantry-plot");
    }
}
