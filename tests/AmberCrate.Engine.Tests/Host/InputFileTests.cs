using System.Diagnostics;
using AmberCrate.Engine.Host;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Host;

public sealed class InputFileTests
{
    [Fact]
    public void Pipes_and_devices_are_read_once_and_files_and_folders_again()
    {
        using var folder = new TemporaryFolder();
        var (file, pipe, link) =
            (Path.Combine(folder.Path, "list"), Path.Combine(folder.Path, "pipe"), Path.Combine(folder.Path, "link"));
        File.WriteAllText(file, "scrim-paint\n");
        using (var made = Process.Start("mkfifo", [pipe])) made.EndInTime();
        File.CreateSymbolicLink(link, pipe);
        foreach (var once in new[] { pipe, link, "/dev/null" }) InputFile.IsReadOnce(once).ShouldBeTrue(once);
        foreach (var again in new[] { file, folder.Path, Path.Combine(
            folder.Path, "none"), "scrim-paint", "", new string('x', 9000) }) InputFile.IsReadOnce(again).ShouldBeFalse(again);
    }
}
