using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Reclaiming;

/// <summary>What takes room, and what came of giving it back, as JSON.</summary>
internal sealed record ReclaimDocument(
    long Size, long Freed, int UndoDays, IReadOnlyList<ReclaimItemDocument> Items, int Format = DocumentFormat.Number)
{
    public static ReclaimDocument FromResult(ReclaimResult result) => new(
        result.Plan.Size, result.Freed, result.Plan.UndoDays,
        [.. result.Plan.Items.Select(item => new ReclaimItemDocument(
            ReclaimWords.Kinds.WordOf(item.Kind), item.App?.Text, item.Path, item.Size, item.Kept,
            result.Failed.Where(one => one.Item == item).Select(one => one.Fault).FirstOrDefault()))]);
}

/// <summary>A file or folder that takes room, as JSON.</summary>
internal sealed record ReclaimItemDocument(string Kind, string? App, string Path, long Size, string? Kept, string? Fault);
