using System.Text;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Comparing;
using AmberCrate.Engine.Comparing;

namespace AmberCrate.Cli.Comparing;

/// <summary>Writes how machines differ from a bundle as a page.</summary>
internal static class DifferencePage
{
    private const int MostCells = 250_000, MostWords = 20_000;

    // Adds searching and sorting to the tables; without it, everything is there to be read.
    private const string Script = """
        document.documentElement.className='scripted';
        for(const box of document.querySelectorAll('input[data-for]')){
        const rows=[...document.getElementById(box.dataset.for).tBodies[0].rows],said=document.getElementById(box.id+'-said');
        const texts=rows.map(r=>r.textContent.toLowerCase());
        box.addEventListener('input',()=>{const words=box.value.toLowerCase().split(/\s+/).filter(Boolean);let n=0;
        rows.forEach((r,i)=>{const on=words.every(w=>texts[i].includes(w));r.hidden=!on;n+=on});
        said.textContent=words.length?n+' of '+rows.length+' shown':''})}
        for(const table of document.querySelectorAll('table[data-sort]'))[...table.tHead.rows[0].cells].forEach((head,at)=>{
        if(head.dataset.fixed)return;const b=document.createElement('button');b.type='button';b.append(...head.childNodes);
        head.append(b);b.addEventListener('click',()=>{const up=head.getAttribute('aria-sort')!=='ascending';
        for(const other of table.tHead.rows[0].cells)other.removeAttribute('aria-sort');
        head.setAttribute('aria-sort',up?'ascending':'descending');
        const key=r=>r.cells[at]?r.cells[at].dataset.v||r.cells[at].textContent:'';
        const rows=[...table.tBodies[0].rows].sort((x,y)=>key(x).localeCompare(key(y),undefined,{numeric:true})*(up?1:-1));
        table.tBodies[0].append(...rows)})});
        """;

    /// <summary>The page.</summary>
    public static string Render(CompareResult result)
    {
        var body = new StringBuilder();
        var verdict = result.Fleet is { } fleet ? DifferenceView.Verdict(fleet) : DifferenceView.Verdict(result.Pair!);
        body.Append($"<h1>{Page.Text((result.Fleet?.Wanted ?? result.Pair!.Wanted).Name)}</h1>\n");
        body.Append($"<p class=verdict>{Page.Text(verdict)}</p>\n");
        body.Append($"<p class=quiet>compared {PlainText.Time(result.Now)}</p>\n");
        if (result.Fleet is { } many) Fleet(body, many);
        else Pair(body, result.Pair!);
        return Page.Render(verdict, body.ToString(), Script);
    }

    private static void Pair(StringBuilder body, Comparison pair)
    {
        if (pair.Differences.Count == 0) return;
        Search(body, "differences", "Search the differences");
        body.Append("<div class=wide><table id=differences data-sort><thead><tr><th>Difference<th>App<th>Wanted"
            + "<th>There<th>Remark</thead><tbody>\n");
        foreach (var one in pair.Differences)
            body.Append(
                $"<tr><td class={ClassOf(one.Kind)}>{DifferenceWords.Kinds.WordOf(one.Kind)}<th scope=row>{Page.Text(one.App)}"
                    + $"<td>{Page.Text(Shown(one.Wanted))}<td>{Page.Text(Shown(one.There))}<td>{Page.Text(one.Words)}\n");
        body.Append("</tbody></table></div>\n");
    }

    private static void Fleet(StringBuilder body, ComparedFleet fleet)
    {
        var apps = fleet.Apps;
        if (fleet.Machines.Count > 0) Machines(body, fleet);
        if (apps.Count > 0)
        {
            body.Append("<h2>Apps that differ</h2>\n<div class=wide><table id=apps data-sort><thead><tr><th>App"
                + "<th class=n>Machines</thead><tbody>\n");
            foreach (var (app, count) in apps)
                body.Append($"<tr><th scope=row>{Page.Text(app)}<td class=n>{count}\n");
            body.Append("</tbody></table></div>\n");
        }

        if (apps.Count > 0 && fleet.Drifted * (long)apps.Count <= MostCells) Matrix(body, fleet, apps);
        if (fleet.Unreadable.Count == 0) return;
        body.Append("<h2>Files that cannot be read</h2>\n<div class=wide><table><thead><tr><th>File<th>Why</thead><tbody>\n");
        foreach (var side in fleet.Unreadable)
            body.Append($"<tr><th scope=row>{Page.Text(side.Name)}<td class=off>{Page.Text(side.Fault)}\n");
        body.Append("</tbody></table></div>\n");
    }

    private static void Machines(StringBuilder body, ComparedFleet fleet)
    {
        Search(body, "machines", "Search machines, apps and reasons");
        body.Append("<h2>Machines, the worst first</h2>\n<div class=wide><table id=machines class=stack data-sort><thead><tr>"
            + "<th>Machine<th class=n>Apps that differ<th>Exported<th data-fixed=1>What differs</thead><tbody>\n");
        var most = fleet.Machines.Sum(machine => machine.Differences.Count) > MostWords ? 4 : int.MaxValue;
        foreach (var machine in fleet.Machines)
        {
            var count = machine.Differences.Select(one => one.App).Distinct().Count();
            body.Append($"<tr><th scope=row>{Page.Text(machine.There.Name)}<td class=n data-v={count}>"
                + $"{(count == 1 ? "1 app" : $"{count} apps")}<td>"
                + $"{(machine.There.Date is { } date ? PlainText.Date(date) : "")}<td>");
            if (count == 0) body.Append("nothing");
            body.AppendJoin(
                "<br>", machine.Differences.GroupBy(one => one.Kind).Select(group => OfKind(group.Key, [.. group], most)));
            body.Append('\n');
        }

        body.Append("</tbody></table></div>\n");
    }

    /// <summary>The apps that differ in one way.</summary>
    private static string OfKind(DifferenceKind kind, List<Difference> differences, int most)
    {
        var apps = differences.Take(most).Select(one => Page.Text(kind switch
        {
            DifferenceKind.Missing => one.App,
            DifferenceKind.Older or DifferenceKind.Newer or DifferenceKind.OnlyThere =>
                $"{one.App} {one.There!.Version}".TrimEnd(),
            DifferenceKind.Damaged or DifferenceKind.OtherCatalogue or DifferenceKind.OtherFile
                or DifferenceKind.OtherPin or DifferenceKind.OtherOptions =>
                    $"{one.App} ({one.Words})",
        }));
        return $"<b class={ClassOf(kind)}>{differences.Count} {DifferenceWords.Kinds.WordOf(kind)}</b> {string.Join(", ", apps)}"
            + (differences.Count > most ? $" and {differences.Count - most} more" : "");
    }

    /// <summary>Machines by apps; a letter for each difference.</summary>
    private static void Matrix(StringBuilder body, ComparedFleet fleet, IReadOnlyList<(string App, int Machines)> apps)
    {
        body.Append("<h2>Machines by apps</h2>\n<p class=quiet>");
        body.AppendJoin(", ", DifferenceWords.Kinds.Pairs.Select(pair => $"{LetterOf(pair.Value)} {pair.Word}"));
        body.Append(". An empty cell: no difference.</p>\n<div class=wide tabindex=0 role=region aria-label=\"Machines by apps\">"
            + "<table id=matrix data-sort><thead><tr><th>Machine");
        foreach (var (app, _) in apps) body.Append($"<th>{Page.Text(app)}");
        body.Append("</thead><tbody>\n");
        foreach (var machine in fleet.Machines.Where(machine => machine.Differences.Count > 0))
        {
            var of = machine.Differences.ToLookup(one => one.App, StringComparer.Ordinal);
            body.Append($"<tr><th scope=row>{Page.Text(machine.There.Name)}");
            foreach (var (app, _) in apps)
            {
                if (!of.Contains(app)) body.Append("<td>");
                else
                    body.Append($"<td class={ClassOf(of[app].First().Kind)}>")
                        .AppendJoin(' ', of[app].Select(one => LetterOf(one.Kind)));
            }

            body.Append('\n');
        }

        body.Append("</tbody></table></div>\n");
    }

    private static void Search(StringBuilder body, string table, string label) => body.Append(
        $"<div class=tools><label for=search-{table}>{label}</label><input id=search-{table} type=search data-for={table}> "
            + $"<span class=quiet id=search-{table}-said role=status></span></div>\n");

    private static string ClassOf(DifferenceKind kind) => kind <= DifferenceKind.Older ? "off" : "some";

    private static char LetterOf(DifferenceKind kind) => kind switch
    {
        DifferenceKind.Damaged => 'D',
        DifferenceKind.Missing => 'M',
        DifferenceKind.Older => 'O',
        DifferenceKind.Newer => 'N',
        DifferenceKind.OtherCatalogue => 'C',
        DifferenceKind.OtherFile => 'F',
        DifferenceKind.OtherPin => 'P',
        DifferenceKind.OtherOptions => 'S',
        DifferenceKind.OnlyThere => 'X',
    };

    private static string Shown(ComparedApp? app) =>
        app is null ? "" : app.Version?.Text ?? (app.Follows is { } follows ? $"@{follows}" : "newest");
}
