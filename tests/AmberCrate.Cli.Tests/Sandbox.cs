using System.Diagnostics;
using AmberCrate.Playhouse;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// A temporary folder with the playhouse's catalogues in it, and the built program to run there.
/// </summary>
public sealed class Sandbox : IAsyncDisposable
{
    public static readonly string Program = BuiltProgram.Path;
    private static readonly System.Text.RegularExpressions.Regex StageLine = new(
        "^[0-9]+ of [0-9]+  (downloading|unpacking|placing|removing|waiting) ",
        System.Text.RegularExpressions.RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1));
    private static readonly System.Text.RegularExpressions.Regex Took = new(
        ", in [0-9]+ (s|min [0-9]+ s)\\.", System.Text.RegularExpressions.RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1));
    private static readonly System.Text.RegularExpressions.Regex FreedRoom = new(
        "frees [0-9.]+ ([KMG]i)?B", System.Text.RegularExpressions.RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1));
    private static readonly System.Text.RegularExpressions.Regex FreeSpace =
        new("[0-9.]+ [KMGT]iB free\\b", System.Text.RegularExpressions.RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1));
    private StaticServer? _server;

    public Sandbox()
    {
        Folder = Directory.CreateTempSubdirectory("acrate-cli-").FullName;
        World.Shipped.Write("house", this["house"], withLater: true);
        World.Shipped.Write("guild", this["guild"], withLater: false);
    }

    public string Folder { get; }

    /// <summary>The root of the machine that commands work on.</summary>
    public string Root { get; set; } = "root";

    public Dictionary<string, string> Variables { get; } = [];

    /// <summary>
    /// The system's own programs as this sandbox has them: the text of a script in place of one, or null for one that is missing.
    /// Programs are looked for in fixed folders of root, so this takes root and a name space for mounts.
    /// </summary>
    public Dictionary<string, string?> SystemPrograms { get; } = [];

    /// <summary>What a shell does before it starts the program, where <see cref="SystemPrograms"/> are set.</summary>
    public string Before { get; set; } = "";

    /// <summary>The number of the user who runs the program; null for the one who runs the tests.</summary>
    public string? User { get; set; }

    public StaticServer Server => _server ?? throw new InvalidOperationException("no server has been started");

    public string this[params string[] parts] => Path.Combine([Folder, .. parts]);

    /// <summary>A sandbox in which both catalogues have been added from their folders.</summary>
    public static Sandbox WithCatalogues()
    {
        var sandbox = new Sandbox();
        foreach (var name in new[] { "house", "guild" }) sandbox.Prepare.AddCatalogue(name, sandbox[name]);
        return sandbox;
    }

    /// <summary>A sandbox in which the guild is published, served over HTTP and added.</summary>
    public static async Task<Sandbox> WithServedGuildAsync()
    {
        var sandbox = new Sandbox();
        sandbox.Prepare.MakeKeys("keys");
        sandbox.Prepare.Publish("guild", "site", "keys");
        sandbox._server = await StaticServer.StartAsync(sandbox["site"]);
        sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "30";
        sandbox.Variables["ACRATE_RETRY_WAIT"] = "0.01";
        sandbox.Prepare.AddCatalogue("guild", sandbox.Server.Address.ToString(), sandbox["site", "root.json"]);
        return sandbox;
    }

    /// <summary>Does what a test needs first, in this process.</summary>
    internal Preparation Prepare => field ??= new Preparation(this);

    /// <summary>A variable as the program has it. The machine's own PATH does not matter.</summary>
    internal string? Variable(string name) => Variables.TryGetValue(name, out var set) ? set : name switch
    {
        "HOME" => this["home"],
        "ACRATE_ROOT" => this[Root],
        "PATH" => $"{this["programs"]}:{this[Root, ".local", "bin"]}",
        "NO_COLOR" => null,
        _ => name.StartsWith("XDG_", StringComparison.Ordinal) ? null : Environment.GetEnvironmentVariable(name),
    };

    /// <summary>
    /// Makes the root an image with a shell, which the playhouse's programs need: what all users of an image have is looked for
    /// there.
    /// </summary>
    public void MakeImage()
    {
        Directory.CreateDirectory(this[Root, "bin"]);
        File.WriteAllText(this[Root, "bin", "sh"], "");
    }

    /// <summary>Lets the guild's later releases come out in its folder of cards.</summary>
    public void PublishLater() => World.Shipped.Write("guild", this["guild"], withLater: true);

    /// <summary>Gives an app of the guild with one release another artifact, and a card that tells the truth about it.</summary>
    public void ReplaceArtifact(string app, byte[] bytes, string format)
    {
        var card = this["guild", $"{app}.appcard.toml"];
        File.WriteAllBytes(this["guild", "files", "replaced"], bytes);
        File.WriteAllLines(card, File.ReadAllLines(card)
            .Where(line => line != "strip = 1")
            .Select(line => line.Split(" = ")[0] switch
        {
            "location" => "location = \"files/replaced\"",
            "format" => $"format = \"{format}\"",
            "sha256" => $"sha256 = \"{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes))}\"",
            "download_size" => $"download_size = {bytes.Length}",
            _ => line,
        }));
    }

    public Result Run(params string[] arguments)
    {
        using var process = Start(arguments);
        return Finish(process, arguments);
    }

    /// <summary>Runs another program in the same surroundings, such as this one of another architecture.</summary>
    public Result RunBy(string program, params string[] arguments)
    {
        using var process = StartAs(program, arguments);
        return Finish(process, arguments);
    }

    /// <summary>Starts the program without waiting for it.</summary>
    public Process Start(params string[] arguments) => StartAs(Program, arguments);

    /// <summary>Starts the program on a terminal of its own, from which standard output can be read as it is drawn.</summary>
    public Process StartOnTerminal(params string[] arguments)
    {
        Variables["TERM"] = "xterm";
        Variables["SHELL"] = "/bin/sh";
        return StartAs("/usr/bin/script", ["-qefc", string.Join(' ', (string[])[Program, .. arguments]), "/dev/null"]);
    }

    /// <summary>The same on a terminal with so many columns, with a line as it is typed.</summary>
    public Process StartOnTerminal(int columns, string line) => StartAs(
        "/usr/bin/script", ["-qefc", $"/usr/bin/stty cols {columns} rows 40; exec {Program} {line}", "/dev/null"]);

    /// <summary>
    /// Has another user run the program from now on, to whom the whole sandbox belongs. It takes root.
    /// </summary>
    public void BecomeUser(string user)
    {
        if (!Environment.IsPrivilegedProcess) Assert.Skip("only root can run the program as another user");
        User = user;
        Directory.CreateDirectory(this["home"]);
        foreach (var command in new[] { $"cp -r {Path.GetDirectoryName(Program)} {this["built"]}",
            $"chown -R {user}:{user} {Folder}" })
        {
            using var process = Process.Start("/bin/sh", ["-c", command]);
            process.EndInTime();
            process.ExitCode.ShouldBe(0, command);
        }
    }

    /// <summary>The words around a command that give it the system's programs and the user of this sandbox.</summary>
    public string[] Around()
    {
        string[] user = User is null ? [] : ["/usr/bin/setpriv", "--reuid", User, "--regid", User, "--clear-groups"];
        if (SystemPrograms.Count == 0) return user;
        if (!Environment.IsPrivilegedProcess) Assert.Skip("only root can put other programs in place of the system's");
        var hidden = SystemPrograms.Keys.SelectMany(name => new[] { $"/usr/bin/{name}", $"/usr/sbin/{name}" }).Where(File.Exists);
        var script = new System.Text.StringBuilder("/usr/bin/mount -t tmpfs -o mode=755 acrate /usr/local/bin\n");
        foreach (var path in hidden) script.Append($"/usr/bin/mount --bind /dev/null {path}\n");
        foreach (var (name, text) in SystemPrograms.Where(one => one.Value is not null))
            script.Append($"/usr/bin/cat > /usr/local/bin/{name} <<'END OF SCRIPT'\n{text}\nEND OF SCRIPT\n"
                + $"/usr/bin/chmod 755 /usr/local/bin/{name}\n");
        return ["/usr/bin/unshare", "--mount", "/bin/sh", "-ec", $"{script}{Before}\nexec \"$@\"", "sh", .. user];
    }

    private Process StartAs(string program, string[] arguments)
    {
        if (User is not null && program == Program) program = this["built", Path.GetFileName(Program)];
        string[] words = [.. Around(), program, .. arguments];
        var start = new ProcessStartInfo(words[0], words[1..])
        {
            RedirectStandardOutput = true, RedirectStandardError = true, RedirectStandardInput = true, UseShellExecute = false,
            WorkingDirectory = Folder,
        };
        foreach (var name in start.Environment.Keys.Concat(["HOME", "ACRATE_ROOT", "PATH"]).Concat(Variables.Keys).ToHashSet())
        {
            if (Variable(name) is { } value) start.Environment[name] = value;
            else start.Environment.Remove(name);
        }

        return Process.Start(start)!;
    }

    /// <summary>Waits for a program that was started, and takes what it wrote.</summary>
    public Result Finish(Process process, params string[] arguments)
    {
        process.StandardInput.Close();
        var error = process.ReadErrorsAsync();
        var output = process.ReadOutput();
        process.EndInTime();

        // Which programs the machine has for its desktop is its own affair, unless the test has put them there.
        var isOfDesktop = SystemPrograms.Count > 0 ? "no line" : "afterwards: ";
        var lines = Neutral(output).Split('\n').Where(line => !line.StartsWith(isOfDesktop, StringComparison.Ordinal))
            .ToLookup(line => StageLine.IsMatch(line));
        return new Result(
            this, $"acrate {string.Join(' ', arguments)}", process.ExitCode, string.Join('\n', lines[false]),
            Neutral(error.Result))
        { Stages = [.. lines[true]] };
    }

    /// <summary>
    /// Every file and link below a folder, by relative path; the program's own databases and cache are left out.
    /// </summary>
    public IReadOnlyList<string> Tree(string below) => [.. Walk(this[below])
        .Select(
            path =>
                Path.GetRelativePath(this[below], path) + (new FileInfo(path).LinkTarget is { } target ? $" -> {target}" : ""))
        .Where(path => !path.Contains(".db", StringComparison.Ordinal)
            && !path.EndsWith("/lock", StringComparison.Ordinal)
            && !path.EndsWith(".installed.json", StringComparison.Ordinal)
            && !path.EndsWith(".files", StringComparison.Ordinal)
            && !path.Contains("/mime/", StringComparison.Ordinal)
            && !path.EndsWith("info.cache", StringComparison.Ordinal)
            && !path.EndsWith("icon-theme.cache", StringComparison.Ordinal)
            && !path.EndsWith(".uuid", StringComparison.Ordinal)
            && !path.EndsWith("bin/sh", StringComparison.Ordinal)
            && !path.Contains("/downloads/", StringComparison.Ordinal)
            && !path.Contains("/reserve/", StringComparison.Ordinal)
            && !path.Contains("/logs/", StringComparison.Ordinal)
            && !path.Contains("amber-crate/trust/", StringComparison.Ordinal))
        .Order(StringComparer.Ordinal)];

    private static IEnumerable<string> Walk(string path) =>
        new FileInfo(path).LinkTarget is null && Directory.Exists(path)
            ? Directory.EnumerateFileSystemEntries(path).SelectMany(Walk)
        : File.Exists(path) || new FileInfo(path).LinkTarget is not null ? [path] : [];

    /// <summary>Makes the cache believe that it was filled days ago.</summary>
    public void MakeCatalogueDataOld(int days)
    {
        using var cache = Engine.Storage.Database.Open(this[Root, ".cache", "amber-crate", "catalogues.db"]);
        var then = DateTime.UtcNow.AddDays(-days).AddMinutes(-1).ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'");
        cache.Run("UPDATE catalogues SET refreshed = $1, tried = $1, fault = NULL", then).ShouldBeGreaterThan(0);
    }

    /// <summary>Waits until a download has begun.</summary>
    public async Task WaitForDownloadAsync()
    {
        var folder = Downloads;
        for (var tries = 0; tries < 400; tries++)
        {
            if (Directory.Exists(folder) && Directory.EnumerateFiles(folder).Any(file => new FileInfo(file).Length > 0)) return;
            await Task.Delay(25);
        }

        throw new TimeoutException("no download has begun");
    }

    /// <summary>Where artifacts are kept.</summary>
    public string Downloads => this["home", ".cache", "amber-crate", "downloads"];

    /// <summary>What an installed command prints.</summary>
    public string RunInstalled(string command, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(
            this[Root, ".local", "bin", command], arguments)
        { RedirectStandardOutput = true, UseShellExecute = false })!;
        return process.ReadOutput();
    }

    public async ValueTask DisposeAsync()
    {
        if (_server is not null) await _server.DisposeAsync();
        Directory.Delete(Folder, recursive: true);
    }

    private string Neutral(string text)
    {
        text = FreedRoom.Replace(text, "frees ROOM");
        text = Took.Replace(FreeSpace.Replace(text.Replace(Folder, "~", StringComparison.Ordinal), "ROOM free"), ".");
        return _server is null ? text : text.Replace(_server.Address.ToString(), "http://guild/", StringComparison.Ordinal)
            .Replace(_server.Address.ToString().TrimEnd('/'), "http://guild", StringComparison.Ordinal);
    }
}
