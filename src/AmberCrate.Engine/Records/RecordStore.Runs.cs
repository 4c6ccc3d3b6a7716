using System.Globalization;
using System.Text;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Records;

/// <content>The runs.</content>
public sealed partial class RecordStore
{
    /// <summary>Between arguments in one column: no argument of a program can hold it.</summary>
    private const char BetweenArguments = '\0';

    /// <summary>Of how many of the latest runs something can be left.</summary>
    private const int MostRunsLeft = 20;

    private const int ItemColumnCount = 11;

    private const string ItemColumns =
        "app, action, to_version, outcome, reference, stated_sha256, installer_arguments, before, after, reason, platform";

    private const string RunColumns = "SELECT number, command, begun, ended, interrupted, who, expired FROM runs ";

    /// <summary>Opens the record of a run, with all that it is about to do, and gives its number.</summary>
    /// <param name="command">The command as it was typed.</param>
    /// <param name="who">The name of the user.</param>
    /// <param name="plan">What it is about to do.</param>
    public long BeginRun(string command, string? who, SurveyedPlan plan)
    {
        using var transaction = _database.Begin();
        var number = _database.Number(
            "INSERT INTO runs(command, begun, who, expired) VALUES($1, $2, $3, $4) RETURNING number", command, Now(), who,
            string.Join('\n', plan.Expired.Select(one => $"{one.Name} {Text(one.Since)}")));
        foreach (var item in plan.Items) WriteItem(number, item, OutcomeWords.NotEnded, null);
        transaction.Commit();
        CrashPoints.Pass();
        return number;
    }

    /// <summary>Adds a catalogue as a part of a run, which from then on is on its record.</summary>
    public void AddCatalogue(long run, RegisteredCatalogue catalogue)
    {
        using var transaction = _database.Begin();
        Insert(catalogue);
        _database.Run(
            "INSERT INTO run_catalogues(run, name, location, trust, mirrors) VALUES($1, $2, $3, $4, $5)", run,
            catalogue.Name.Text, catalogue.Location, catalogue.Trust.Text, Written(catalogue.Mirrors));
        transaction.Commit();
        CrashPoints.Pass();
    }

    /// <summary>Drops a catalogue as a part of a run, which from then on is on its record.</summary>
    public void DropCatalogue(long run, RegisteredCatalogue catalogue)
    {
        using var transaction = _database.Begin();
        DropCatalogue(catalogue.Name);
        _database.Run(
            "INSERT OR REPLACE INTO run_catalogues(run, name, location, trust, mirrors, dropped) VALUES($1, $2, $3, $4, $5, 1)",
            run, catalogue.Name.Text, catalogue.Location, catalogue.Trust.Text, Written(catalogue.Mirrors));
        transaction.Commit();
        CrashPoints.Pass();
    }

    /// <summary>Sets, changes and lifts pins as a part of a run, which from then on is on its record.</summary>
    public void ChangePins(long run, IReadOnlyList<PlannedPin> pins)
    {
        if (pins.Count == 0) return;
        using var transaction = _database.Begin();
        foreach (var pin in pins)
        {
            if (pin.After is { } after) SetPin(after);
            else LiftPin(pin.App);
            _database.Run(
                "INSERT OR REPLACE INTO run_pins(run, app, before, after) VALUES($1, $2, $3, $4)", run, pin.App.Text,
                pin.Before is { } before ? PinJson.Write(before) : null, pin.After is { } set ? PinJson.Write(set) : null);
        }

        transaction.Commit();
        CrashPoints.Pass();
    }

    /// <summary>The catalogues that a run has added and dropped, in the order of their names.</summary>
    public IReadOnlyList<(RegisteredCatalogue Catalogue, bool IsDropped)> CataloguesOf(long run) => _database.Query(
        "SELECT name, location, dropped, trust, mirrors FROM run_catalogues WHERE run = $1 ORDER BY name",
        row => (new RegisteredCatalogue(CatalogueName.Parse(row.Text(0)), row.Text(1))
        {
            Trust = CatalogueTrust.Parse(row.Text(3)), Mirrors = MirrorsIn(row.Text(4)),
        }, row.Truth(2)), run);

    /// <summary>The pins that a run has set, changed and lifted.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<PlannedPin> PinsOf(long run) => _database.Query(
        "SELECT app, before, after FROM run_pins WHERE run = $1 ORDER BY app",
        row => new PlannedPin(
            ReadId(row.Text(0)), row.IsNull(1) ? null : ReadPin(row.Text(0), row.Text(1)),
            row.IsNull(2) ? null : ReadPin(row.Text(0), row.Text(2))),
        run);

    /// <summary>What every run behind one did to pins, the latest run first.</summary>
    /// <param name="number">The run; 0 for all.</param>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IEnumerable<PlannedPin> PinsSince(long number) => _database
        .Query("SELECT DISTINCT run FROM run_pins WHERE run > $1 ORDER BY run DESC", row => row.Number(0), number)
        .SelectMany(PinsOf);

    /// <summary>The latest runs with the outcomes of their items, the latest first.</summary>
    /// <param name="most">How many at most.</param>
    public IReadOnlyList<RecordedRun> Runs(int most)
    {
        var counts = _database.Query(
            "SELECT run, outcome, COUNT(*) FROM run_items WHERE run > (SELECT COALESCE(MAX(number), 0) FROM runs) - $1 "
                + "GROUP BY run, outcome",
            row => (Run: row.Number(0), Outcome: row.Text(1), Count: (int)row.Number(2)), most)
            .ToLookup(row => row.Run, row => (ReadOutcome(row.Run, row.Outcome), row.Count));
        return _database.Query(
            RunColumns + "ORDER BY number DESC LIMIT $1",
            row => ReadRun(row, []) with { Counts = [.. counts[row.Number(0)]] }, most);
    }

    /// <summary>The number of the first run that is still on record; 0 for none.</summary>
    public long FirstRun() => _database.Number("SELECT COALESCE(MIN(number), 0) FROM runs");

    /// <summary>
    /// Counts the old runs that undo does not need any more: they began before a time. The latest run stays, because the next run
    /// takes the number after it. If a run left something undone, it stays too, with all later runs.
    /// </summary>
    /// <param name="since">The time.</param>
    /// <returns>How many there are, and about how many bytes their records have.</returns>
    public (int Count, long Size) OldRuns(DateTimeOffset since)
    {
        var last = LastOldRun(since);
        return ((int)_database.Number("SELECT COUNT(*) FROM runs WHERE number <= $1", last), _database.Number(
            "SELECT COALESCE(SUM(LENGTH(COALESCE(before, '')) + LENGTH(COALESCE(after, '')) + 200), 0) FROM run_items "
                + "WHERE run <= $1",
            last));
    }

    /// <summary>Removes the runs that <see cref="OldRuns"/> counts, and gives their room back.</summary>
    /// <param name="since">The time.</param>
    public void RemoveOldRuns(DateTimeOffset since)
    {
        var last = LastOldRun(since);
        using (var transaction = _database.Begin())
        {
            foreach (var table in new[] { "run_items", "run_pins", "run_catalogues" })
                _database.Run($"DELETE FROM {table} WHERE run <= $1", last);
            _database.Run("DELETE FROM runs WHERE number <= $1", last);
            _database.Run(
                "DELETE FROM kept_cards WHERE sha256 NOT IN (SELECT record ->> 'sha256' FROM apps WHERE json_valid(record)) "
                    + "AND sha256 NOT IN (SELECT before ->> 'sha256' FROM run_items WHERE json_valid(before)) "
                    + "AND sha256 NOT IN (SELECT after ->> 'sha256' FROM run_items WHERE json_valid(after))");
            transaction.Commit();
        }

        _database.Run("VACUUM");
    }

    private long LastOldRun(DateTimeOffset since) => _database.Number(
        "SELECT COALESCE(MAX(number), 0) FROM runs WHERE begun < $1 AND number < (SELECT MAX(number) FROM runs) "
            + "AND number < COALESCE((SELECT MIN(number) FROM runs WHERE begun >= $1), 9223372036854775807) "
            + $"AND number < COALESCE((SELECT MIN(run) FROM run_items WHERE {RecordSchema.IsLeft} AND run > "
            + $"(SELECT COALESCE(MAX(number), 0) - {MostRunsLeft} FROM runs)), 9223372036854775807)",
        Text(since));

    /// <summary>The number of all runs.</summary>
    public long RunCount() => _database.Number("SELECT COUNT(*) FROM runs");

    /// <summary>A run with its items; null where there is none of this number.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public RecordedRun? Run(long number) => _database.Query(
        RunColumns + "WHERE number = $1", row => ReadRun(row, ItemsOf(number)), number).FirstOrDefault();

    /// <summary>The items of every run behind one, the latest run first.</summary>
    /// <param name="number">The run; 0 for all.</param>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IEnumerable<IReadOnlyList<RecordedItem>> ItemsSince(long number) => _database
        .Query("SELECT number FROM runs WHERE number > $1 ORDER BY number DESC", row => row.Number(0), number)
        .Select(ItemsOf);

    /// <summary>
    /// The number of the latest run that has changed something: apps, what they follow, pins or catalogues. Null for none.
    /// </summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public long? LatestThatChanged()
    {
        var latest = _database.Number(
            "SELECT MAX(COALESCE((SELECT MAX(run) FROM run_pins), 0), COALESCE((SELECT MAX(run) FROM run_catalogues), 0))");
        var maybe = _database.Query(
            "SELECT DISTINCT run FROM run_items WHERE run > $1 AND outcome IN ('done', 'open', 'unchanged') ORDER BY run DESC",
            row => row.Number(0), latest);
        foreach (var run in maybe)
        {
            if (ItemsOf(run).Any(item => item.HasChanged || item.Outcome is null)) return run;
        }

        return latest > 0 ? latest : null;
    }

    /// <summary>The states of apps before runs since a time that have changed them, with the time of the run.</summary>
    /// <param name="since">The time.</param>
    public IReadOnlyList<(InstalledApp App, DateTimeOffset Begun)> StatesBefore(DateTimeOffset since) => [.. _database.Query(
        "SELECT app, before, begun FROM run_items JOIN runs ON runs.number = run_items.run "
            + "WHERE before IS NOT NULL AND action <> 'keep' AND begun >= $1",
        row => (App: ReadAppOrNull(row.Text(0), row.Text(1)), Begun: Time(row.Text(2))), Text(since))
        .Where(state => state.App is not null).Select(state => (state.App!, state.Begun))];

    private static RecordedRun ReadRun(Row row, IReadOnlyList<RecordedItem> items) => new(row.Number(0), row.Text(1), items)
    {
        Begun = Time(row.Text(2)), Ended = row.IsNull(3) ? null : Time(row.Text(3)), IsInterrupted = row.Truth(4),
        Who = row.IsNull(5) ? null : row.Text(5),
        Expired = [.. row.Text(6).Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line => line.Split(' '))
            .Select(words => new ExpiredCatalogue(CatalogueName.Parse(words[0]), Time(words[1])))],
    };

    private static DateTimeOffset Time(string text) => DateTimeOffset.TryParse(
        text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var time) ? time : DateTimeOffset.UnixEpoch;

    private static Outcome? ReadOutcome(long run, string text)
    {
        try
        {
            return text == OutcomeWords.NotEnded ? null : OutcomeWords.Outcomes.Read(text);
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"the record of run {run} cannot be read", fault);
        }
    }

    /// <summary>The latest runs with items that did not end as planned, the latest first.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IEnumerable<RecordedRun> RunsNotEnded() => _database.Query(
        $"SELECT DISTINCT run FROM run_items WHERE {RecordSchema.IsLeft} AND run > "
            + $"(SELECT COALESCE(MAX(number), 0) - {MostRunsLeft} FROM runs) ORDER BY run DESC",
        row => row.Number(0)).Select(number => Run(number)!);

    /// <summary>The items that are left of a run, as the machine is now.</summary>
    /// <param name="run">The run.</param>
    /// <param name="machine">The machine.</param>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<RecordedItem> LeftOf(RecordedRun run, MachineState machine) => RunLeft.Find(
        run.Items, machine, app => _database.Query(
            $"SELECT {ItemColumns}, run FROM run_items WHERE run > $1 AND app = $2",
            row => ReadItem(row.Number(ItemColumnCount), row), run.Number, app));

    /// <summary>The items of a run, in the order of its plan.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<RecordedItem> ItemsOf(long run) => _database.Query(
        $"SELECT {ItemColumns} FROM run_items WHERE run = $1 ORDER BY rowid", row => ReadItem(run, row), run);

    /// <summary>Closes the record of a run.</summary>
    public void EndRun(long number, RunReport report)
    {
        using var transaction = _database.Begin();
        foreach (var item in report.Items)
            WriteItem(number, item.Item, OutcomeWords.Outcomes.WordOf(item.Outcome), item.Problem?.What);
        _database.Run(
            "UPDATE runs SET ended = $2, interrupted = $3 WHERE number = $1", number, Now(), report.Interrupted ? 1 : 0);
        transaction.Commit();
    }

    /// <summary>Writes an item with the whole state of its app before it, and after it as far as that has come about.</summary>
    private void WriteItem(long run, PlanItem item, string outcome, string? reason)
    {
        var catalogue = item.Offer?.Catalogue ?? item.Installed?.Catalogue;
        var after = outcome == OutcomeWords.NotEnded || item.App is not { } id ? null : Find(id);
        _database.Run(
            """
            INSERT OR REPLACE INTO run_items(run, app, action, from_version, to_version, outcome, reason, reference,
                stated_sha256, installer_arguments, before, after, platform)
            VALUES($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)
            """,
            run, item.Id, ActionWords.Actions.WordOf(item.Wanted?.Action ?? item.Action), item.From?.Text,
            (item.Wanted?.To ?? item.To)?.Text, outcome, reason,
            new AppReference(catalogue, item.Id, item.Follows).ToString(), item.StatedSha256?.Hex,
            Packed(item.InstallerArguments),
            Record(item.Installed), Record(after), item.Platform?.ToString());
    }

    private static string? Record(InstalledApp? app) => app is null ? null : InstalledAppJson.Write(app);

    private static byte[]? Packed(IReadOnlyList<string> arguments) =>
        arguments.Count > 0 ? Encoding.UTF8.GetBytes(string.Join(BetweenArguments, arguments)) : null;

    private static RecordedItem ReadItem(long run, Row row)
    {
        try
        {
            var reference = AppReference.Parse(Text(4) ?? row.Text(0));
            Outcome? outcome = row.Text(3) == OutcomeWords.NotEnded ? null : OutcomeWords.Outcomes.Read(row.Text(3));
            return new RecordedItem(
                reference, ActionWords.Actions.Read(row.Text(1)), Text(2) is { } to ? AppVersion.Parse(to) : null, outcome)
            {
                StatedSha256 = Text(5) is { } digest ? Sha256Digest.Parse(digest) : null,
                InstallerArguments = row.IsNull(6) ? [] : Encoding.UTF8.GetString(row.Bytes(6)).Split(BetweenArguments),
                Before = Text(7) is { } before ? ReadApp(row.Text(0), before) : null,
                Reason = Text(9),
                Platform = Text(10) is { } platform ? Platform.Parse(platform) : null,
                After = Text(8) is { } after ? ReadApp(row.Text(0), after) : null,
            };
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"what run {run} did with {row.Text(0)} cannot be read", fault);
        }

        string? Text(int column) => row.IsNull(column) ? null : row.Text(column);
    }
}
