using System.Text;
using AmberCrate.Cli.Tables;

namespace AmberCrate.Cli.Tests.Approved;

/// <summary>What the program prints in the story, on a narrow terminal, on a wide one and in a pipe.</summary>
public sealed class Tellings : IAsyncLifetime
{
    private static readonly (string Where, int? Width)[] Ways = [("80 columns", 80), ("120 columns", 120), ("pipe", null)];

    private Dictionary<string, (int ExitCode, string Text)>[] _told = [];

    public async ValueTask InitializeAsync()
    {
        if (Telling.FakeTime is null) Assert.Skip("libfaketime is missing, which sets the clock: apt-get install faketime");
        _told = await Task.WhenAll(Ways.Select(way => Task.Run(() => Telling.TellAsync(way.Width))));
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    /// <summary>A step as it is approved: the command, its exit code, and what it printed each way.</summary>
    public string Of(string name)
    {
        var text = new StringBuilder($"$ acrate {Story.Steps.First(step => step.Name == name).Line}".TrimEnd() + "\n");
        var codes = _told.Select(told => told[name].ExitCode).Distinct().ToList();
        text.Append($"exit code {string.Join(", ", codes)}\n");
        foreach (var ((where, _), told) in Ways.Zip(_told)) text.Append($"===== {where}\n{told[name].Text}");
        return text.ToString();
    }

    /// <summary>The lines that are longer than the terminal. A command, a path and an address may be.</summary>
    public IReadOnlyList<string> TooLong(int width) =>
    [
        .. from told in _told[Array.FindIndex(Ways, way => way.Width == width)]
           from line in told.Value.Text.Split('\n')
           where DisplayWidth.Measure(line) > width && told.Key != "list-verbose"
               && !line.TrimStart().StartsWith("next: acrate ", StringComparison.Ordinal)
               && line.Split(' ', StringSplitOptions.RemoveEmptyEntries).Max(word => word.Length) < width - 4
           select $"{told.Key}: {line}",
    ];
}
