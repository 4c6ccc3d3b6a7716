using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>What would change if what waits for signatures were published: a maintainer sees it before signing.</summary>
internal static class PublicationChanges
{
    private const int IdShown = 12;

    /// <summary>The changes of every role that waits.</summary>
    /// <param name="folder">The published folder.</param>
    /// <param name="repository">Its metadata.</param>
    /// <exception cref="ProblemException">What waits cannot be read.</exception>
    public static IReadOnlyList<PreparedChange> List(string folder, SignedRepository repository)
    {
        var changes = new List<PreparedChange>();
        if (repository.NextRoot is { } root)
            changes.Add(new PreparedChange("root", root.Version, [.. OfRoot(repository.Root, root)]));
        foreach (var role in repository.Roles())
        {
            if (repository.NextTargetsOf(role) is not { } next) continue;
            var known = repository.TargetsOf(role);
            changes.Add(new PreparedChange(
                role, next.Version, [.. OfDelegations(known, next), .. OfApps(folder, role, known, next)]));
        }

        return changes;
    }

    private static IEnumerable<string> OfRoot(RootMetadata before, RootMetadata after)
    {
        foreach (var (role, rule) in after.Roles)
        {
            var (name, known) = (RoleText.NameOf(role), before.Roles[role]);
            foreach (var id in rule.KeyIds.Except(known.KeyIds)) yield return $"the key {id[..IdShown]}… signs {name}";
            foreach (var id in known.KeyIds.Except(rule.KeyIds)) yield return $"the key {id[..IdShown]}… no longer signs {name}";
            if (rule.Threshold != known.Threshold)
                yield return $"{name} needs {rule.Threshold} signatures instead of {known.Threshold}";
        }
    }

    private static IEnumerable<string> OfDelegations(TargetsMetadata? before, TargetsMetadata after)
    {
        var known = (before?.Delegations ?? []).Select(Words).ToList();
        var now = after.Delegations.Select(Words).ToList();
        return now.Except(known).Select(words => $"{words} from now on")
            .Concat(known.Except(now).Select(words => $"{words} no longer"));
    }

    private static string Words(Delegation delegation) =>
        $"{delegation.Name} ({string.Join(", ", delegation.Keys.KeyIds.Select(id => $"key {id[..IdShown]}…"))}) signs "
            + string.Join(", ", DelegatedApps.PatternsOf(delegation));

    private static IEnumerable<string> OfApps(string folder, string role, TargetsMetadata? before, TargetsMetadata after)
    {
        var within = role == TargetsMetadata.TopLevel ? "" : $"{DelegatedApps.FolderOf(role)}/";
        var (known, now) = (AppsOf(before), AppsOf(after)!);
        foreach (var id in now.Keys.Except(known?.Keys ?? []).Order(StringComparer.Ordinal)) yield return $"new: {id}";
        foreach (var (id, digest) in now.OrderBy(app => app.Key, StringComparer.Ordinal))
        {
            if (known?.GetValueOrDefault(id) is { } was && was != digest) yield return $"changed: {id}";
        }

        foreach (var id in (known?.Keys ?? []).Except(now.Keys).Order(StringComparer.Ordinal)) yield return $"gone: {id}";
        var (bundles, had) = (BundlesOf(after), BundlesOf(before));
        foreach (var (path, rule) in bundles.Where(file => had.GetValueOrDefault(file.Key) != file.Value))
            yield return $"bundle: {Path.GetFileName(path)} ({rule.Length} bytes)";
        foreach (var path in had.Keys.Except(bundles.Keys)) yield return $"bundle gone: {Path.GetFileName(path)}";

        IReadOnlyDictionary<string, Sha256Digest>? AppsOf(TargetsMetadata? targets)
        {
            if (targets?.Targets.GetValueOrDefault(within + CatalogueDocument.FileName)?.Sha256 is not { } digest) return null;
            var file = Path.Combine(folder, $"{within}{digest.Hex}.{CatalogueDocument.FileName}");
            try
            {
                return EarlierPublication.Read(
                    Path.Combine(folder, within), CatalogueDocument.Read(File.ReadAllBytes(file))).Apps;
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                throw IoProblems.ToProblem(fault, $"{file} cannot be read, or what it names").ToException(fault);
            }
        }

        static Dictionary<string, FileRule> BundlesOf(TargetsMetadata? targets) => (targets?.Targets.AsEnumerable() ?? [])
            .Where(file => file.Key.EndsWith(Core.Bundles.Bundle.FileEnding, StringComparison.Ordinal))
            .ToDictionary(file => file.Key, file => file.Value, StringComparer.Ordinal);
    }
}
