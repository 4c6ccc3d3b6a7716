using System.Diagnostics;
using AmberCrate.Engine.SystemCalls;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Host;

/// <summary>What an artifact has filled a folder with is read from inside it, or not at all.</summary>
public sealed class OpenBeneathTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public OpenBeneathTests()
    {
        Directory.CreateDirectory(_folder["shelf/share"]);
        File.WriteAllText(_folder["secret"], "not for everyone");
        File.WriteAllText(_folder["shelf/share/page.1"], "a page");
        File.CreateSymbolicLink(_folder["shelf/outward.1"], _folder["secret"]);
        File.CreateSymbolicLink(_folder["shelf/inward.1"], "share/page.1");
        File.CreateSymbolicLink(_folder["shelf/folder"], "share");
        File.CreateSymbolicLink(_folder["shelf/zero.1"], "/dev/zero");
        Process.Start("mkfifo", [_folder["shelf/pipe.1"]])!.EndInTime();
    }

    [Fact]
    public void A_regular_file_is_read()
    {
        using var file = Posix.OpenBeneath(_folder["shelf"], "share/page.1");
        RandomAccess.GetLength(file).ShouldBe(6);
    }

    [Theory]
    [InlineData("outward.1", "without following a link")]
    [InlineData("inward.1", "without following a link")]
    [InlineData("folder/page.1", "without following a link")]
    [InlineData("zero.1", "without following a link")]
    [InlineData("pipe.1", "is not a regular file")]
    [InlineData("share", "is not a regular file")]
    [InlineData("missing", "without following a link: No such file or directory")]
    public void Nothing_else_is(string path, string says) =>
        Should.Throw<IOException>(() => Posix.OpenBeneath(_folder["shelf"], path)).Message.ShouldContain(says);

    public void Dispose() => _folder.Dispose();
}
