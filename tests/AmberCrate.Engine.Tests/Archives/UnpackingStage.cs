using System.Diagnostics;
using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Archives;

/// <summary>A folder in which archives are made and unpacked.</summary>
public sealed class UnpackingStage : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public UnpackingStage()
    {
        Directory.CreateDirectory(_folder["work", "in"]);
        File.WriteAllText(_folder["work", "in", "text"], string.Concat(Enumerable.Repeat("a line of the prompt book\n", 400)));
        var noise = new byte[20_000];
        new Random(3).NextBytes(noise);
        File.WriteAllBytes(_folder["work", "in", "noise"], noise);
        File.WriteAllText(_folder["work", "in", "empty"], "");
    }

    public string this[params string[] parts] => _folder[parts];

    /// <summary>
    /// What a shell leaves in the file <c>out</c>, from the folder <c>in</c>. Where a program is missing the test is skipped.
    /// </summary>
    public byte[] Made(string commands)
    {
        using var process = Process.Start(new ProcessStartInfo("/bin/sh", ["-ec", commands])
        {
            UseShellExecute = false, WorkingDirectory = _folder["work"], RedirectStandardOutput = true,
            RedirectStandardError = true,
        })!;
        var said = process.ReadErrorsAsync();
        process.ReadOutput();
        process.EndInTime();
        Assert.SkipWhen(process.ExitCode == 127, $"a program is missing here: {said.Result}");
        process.ExitCode.ShouldBe(0, said.Result);
        var made = _folder["work", "out"];
        return File.ReadAllBytes(File.Exists(made) ? made : made + ".7z");
    }

    public async Task UnpackAsync(string format, byte[] bytes, int strip)
    {
        var artifact = new Artifact
        {
            Platform = Platform.Parse("any-linux-any"), Location = ArtifactLocation.Parse("files/artifact"),
            Format = CardWords.Formats.Read(format),
            Sha256 = Sha256Digest.FromBytes(SHA256.HashData(bytes)), DownloadSize = bytes.Length, StripFolders = strip,
        };
        var file =
            await VerifiedFile.ReceiveAsync(new MemoryStream(bytes), _folder["artifact"], bytes.Length, artifact.Sha256, default);
        if (Directory.Exists(_folder["out"])) Directory.Delete(_folder["out"], recursive: true);
        Directory.CreateDirectory(_folder["out"]);
        Unpacker.Unpack(PresentFile.FromVerified(file), artifact, _folder["out"], default);
    }

    public void Dispose() => _folder.Dispose();
}
