namespace AmberCrate.Cli.Tests;

/// <summary>What the program can say, in one place to be read.</summary>
public sealed class MessageTests
{
    [Fact]
    public async Task The_table_of_messages_is_that_of_the_source_code()
    {
        await using var sandbox = new Sandbox();
        sandbox.Variables["PATH"] = Environment.GetEnvironmentVariable("PATH")!;
        var pages = Path.Combine(AppContext.BaseDirectory, "AmberCrate.Pages.dll");
        sandbox.RunBy("/usr/bin/env", "dotnet", pages, "messages", BuiltProgram.Repository, sandbox["now.txt"]).ShouldEnd(0);
        File.ReadAllText(sandbox["now.txt"]).ShouldBe(
            File.ReadAllText(Path.Combine(BuiltProgram.Repository, "tests", "messages.txt")),
            "eng/pages writes tests/messages.txt again; read what has changed in it");
    }

    [Fact]
    public async Task The_tables_of_the_pages_are_those_of_the_source_code()
    {
        await using var sandbox = new Sandbox();
        sandbox.Variables["PATH"] = Environment.GetEnvironmentVariable("PATH")!;
        string[] pages = ["commands.md", Path.Combine("formats", "app-card.md")];
        Directory.CreateDirectory(sandbox["docs", "formats"]);
        foreach (var page in pages)
            File.Copy(Path.Combine(BuiltProgram.Repository, "docs", page), sandbox["docs", page]);
        sandbox.RunBy(
            "/usr/bin/env", "dotnet", Path.Combine(AppContext.BaseDirectory, "AmberCrate.Pages.dll"), "tables", sandbox.Folder)
            .ShouldEnd(0);
        foreach (var page in pages)
            File.ReadAllText(Path.Combine(BuiltProgram.Repository, "docs", page)).ShouldBe(
                File.ReadAllText(sandbox["docs", page]), "eng/pages writes the tables again");
    }
}
