using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Trust;

/// <summary>Changes who signs a catalogue: other maintainers' keys beside one's own, and apps that are left to others.</summary>
/// <param name="repository">The published folder, with the keys that are here.</param>
/// <param name="folder">The folder's name, for messages.</param>
public sealed class KeyRoster(SignedRepository repository, string folder)
{
    private const int ShortestId = 8;

    private static readonly string[] Taken =
        [TrustWords.Root, TargetsMetadata.TopLevel, TrustWords.Snapshot, TrustWords.Timestamp, "catalogue", "prepared"];

    /// <summary>Lets a key sign a role too.</summary>
    /// <param name="key">The key.</param>
    /// <param name="name">The key's place: root, targets or online.</param>
    /// <param name="threshold">How many keys must sign from now on; null for as many as before.</param>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">It signs already, or a root waits for signatures.</exception>
    public Signing Include(TrustKey key, string name, int? threshold)
    {
        var (root, roles) = (Ready(), RolesOf(name));
        if (roles.Any(role => root.Roles[role].KeyIds.Contains(key.Id)))
            throw new Problem(ProblemCode.Refused, $"the key {key.Id[..ShortestId]}… signs {name} already").ToException();
        return repository.Propose(
            root.Roles.ToDictionary(pair => pair.Key, pair => roles.Contains(pair.Key)
                ? Checked(pair.Value with { KeyIds = [.. pair.Value.KeyIds, key.Id] }, name, threshold)
                : pair.Value),
            root.Keys.Values.Append(key));
    }

    /// <summary>Lets a key sign a role no longer.</summary>
    /// <param name="id">The key's id, or how it begins.</param>
    /// <param name="name">The key's place: root, targets or online.</param>
    /// <param name="threshold">How many keys must sign from now on; null for as many as before.</param>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">It does not sign, no key would be left, or a root waits for signatures.</exception>
    public Signing Drop(string id, string name, int? threshold)
    {
        var (root, roles) = (Ready(), RolesOf(name));
        var found = root.Roles[roles[0]].KeyIds.Where(known => id.Length >= ShortestId
            && known.StartsWith(id, StringComparison.OrdinalIgnoreCase)).ToList();
        if (found.Count != 1)
            throw new Problem(
                ProblemCode.NothingMatched, $"no key \"{id}\" signs {name} of {folder}",
                remedy: $"these do: {string.Join(", ", root.Roles[roles[0]].KeyIds)}").ToException();
        return repository.Propose(
            root.Roles.ToDictionary(pair => pair.Key, pair => roles.Contains(pair.Key)
                ? Checked(pair.Value with { KeyIds = [.. pair.Value.KeyIds.Where(known => known != found[0])] }, name, threshold)
                : pair.Value),
            root.Keys.Values);
    }

    /// <summary>Leaves apps to another maintainer.</summary>
    /// <param name="name">The name of their role.</param>
    /// <param name="key">Their key.</param>
    /// <param name="apps">The ids of the apps, or patterns with <c>*</c> and <c>?</c> for any characters.</param>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">The name is taken or cannot be one, or a pattern is none.</exception>
    public Signing Delegate(string name, TrustKey key, IReadOnlyList<string> apps)
    {
        if (!CatalogueName.TryParse(name, out _) || Taken.Contains(name))
            throw new Problem(
                ProblemCode.BadCommandLine, $"\"{name}\" cannot be the name of a maintainer",
                $"expected {CatalogueName.Expected}, and none of {string.Join(", ", Taken)}").ToException();
        if (apps.Count == 0 || apps.FirstOrDefault(app => !AppPattern.IsValid(app)) is not null)
            throw new Problem(
                ProblemCode.BadCommandLine, $"\"{string.Join(' ', apps)}\" cannot be left to {name}",
                "expected ids of apps, with * and ? for any characters").ToException();
        var targets = Targets();
        return repository.Delegate(
            targets.Keys.Values.Where(known => known.Id != key.Id).Append(key),
            [
                .. targets.Delegations.Where(one => one.Name != name),
                new Delegation(
                    name, new KeyRule([key.Id], 1), IsTerminating: false,
                    [$"{DelegatedApps.FolderOf(name)}/{DelegatedApps.Document}", $"{DelegatedApps.FolderOf(name)}/parts/*",
                        .. apps.Select(DelegatedApps.TargetOf)], []),
            ]);
    }

    /// <summary>Takes apps back from another maintainer.</summary>
    /// <param name="name">The name of their role.</param>
    /// <exception cref="ProblemException">Nothing is left to them.</exception>
    public Signing TakeBack(string name)
    {
        var targets = Targets();
        if (!targets.Delegations.Any(one => one.Name == name))
            throw new Problem(ProblemCode.NothingMatched, $"{folder} leaves no apps to \"{name}\"").ToException();
        var left = targets.Delegations.Where(one => one.Name != name).ToList();
        var used = left.SelectMany(one => one.Keys.KeyIds).ToHashSet(StringComparer.Ordinal);
        return repository.Delegate(targets.Keys.Values.Where(known => used.Contains(known.Id)), left);
    }

    private TargetsMetadata Targets()
    {
        _ = Ready();
        return repository.TargetsOf(TargetsMetadata.TopLevel) ?? throw new Problem(
            ProblemCode.NothingMatched, $"nothing has been published in {folder} yet",
            remedy: NextCommand.Create("catalogue build", "CARDS-DIR", folder, "--keys", "FOLDER")).ToException();
    }

    /// <summary>The root, where no other one waits: one change goes after another.</summary>
    private RootMetadata Ready() => repository.NextRoot is null
        ? repository.Root
        : throw new Problem(
            ProblemCode.Refused, $"a new root of {folder} waits for signatures", "one change of keys goes after another",
            NextCommand.Create("catalogue sign", folder, "--keys", "FOLDER")).ToException();

    private static List<TrustRole> RolesOf(string name) =>
        [.. Enum.GetValues<TrustRole>().Where(role => KeyRing.NameFor(role) == name)];

    private static KeyRule Checked(KeyRule rule, string name, int? threshold)
    {
        var wanted = threshold ?? Math.Min(rule.Threshold, Math.Max(1, rule.KeyIds.Count));
        if (wanted < 1 || wanted > rule.KeyIds.Count)
            throw new Problem(
                ProblemCode.BadCommandLine, $"{wanted} of {rule.KeyIds.Count} keys cannot sign {name}",
                "then no key could publish", $"choose a threshold from 1 to {rule.KeyIds.Count}").ToException();
        return wanted == 1 || name != KeyRing.Online
            ? rule with { Threshold = wanted }
            : throw new Problem(
                ProblemCode.BadCommandLine, "online takes one signature",
                "a timer signs with it, and no second person is there to sign").ToException();
    }
}
