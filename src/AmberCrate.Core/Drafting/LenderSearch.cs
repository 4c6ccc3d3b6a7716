using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>Finds the libraries of a draft in other apps that are drafted with it.</summary>
public static class LenderSearch
{
    /// <summary>
    /// The drafts, each with the apps that it needs for their libraries. Two apps never borrow from each other: the first draft
    /// borrows.
    /// </summary>
    /// <param name="drafts">The drafts, of different apps.</param>
    public static IReadOnlyList<CardDraft> FindLenders(IReadOnlyList<CardDraft> drafts)
    {
        List<CardDraft> found = [.. drafts];
        for (var at = 0; at < found.Count; at++)
        {
            var id = found[at].Id;
            foreach (var other in found.Where(other => other.Id != id && !Reaches(found, other.Id, id)).ToList())
                found[at] = BorrowFrom(found[at], other);
        }

        return found;
    }

    private static CardDraft BorrowFrom(CardDraft draft, CardDraft lender)
    {
        var lent = LibrariesOf(lender);
        if (draft.Placement.Commands.Count == 0 || !FitsTogether(draft, lender)
            || draft.Release.Requirements is not { } required || !required.Any(IsLent)) return draft;
        var names = string.Join(", ", required.Where(IsLent).Select(one => one.Name));
        return draft with
        {
            Needs = [.. draft.Needs, lender.Id],
            Placement = draft.Placement with { Borrows = [.. draft.Placement.Borrows, lender.Id] },
            Release = draft.Release with { Requirements = [.. required.Where(one => !IsLent(one) && !IsPackageOf(one, lender))] },
            Questions = [.. draft.Questions, $"It finds {names} in the app {lender.Id}, which it needs: is that right?"],
        };

        bool IsLent(SystemRequirement one) => one.Kind == RequirementKind.Library && lent.Contains(one.Name);
    }

    private static bool FitsTogether(CardDraft one, CardDraft other) => one.Release.Platform.Equals(other.Release.Platform);

    private static bool IsPackageOf(SystemRequirement requirement, CardDraft lender) =>
        requirement.Kind == RequirementKind.Package
            && requirement.Deb.Any(package => lender.SystemPackages.Contains(package.Name));

    /// <summary>The names of the files in the folders of libraries that an app lends.</summary>
    private static HashSet<string> LibrariesOf(CardDraft lender)
    {
        var folders = lender.Placement.Folders.Where(one => one.Kind == OwnFolderKind.Libraries).SelectMany(one => one.Paths)
            .Select(path => path.Text + "/").ToList();
        return lender.Release.Group.Together.Files
            .Where(file => folders.Exists(folder => file.Path == folder + file.Name))
            .Select(file => file.Name).ToHashSet(StringComparer.Ordinal);
    }

    private static bool Reaches(List<CardDraft> drafts, AppId from, AppId to)
    {
        var (waiting, seen) = (new Queue<AppId>([from]), new HashSet<AppId>());
        while (waiting.TryDequeue(out var id))
        {
            if (id == to) return true;
            if (!seen.Add(id)) continue;
            foreach (var need in drafts.Where(draft => draft.Id == id).SelectMany(draft => draft.Needs)) waiting.Enqueue(need);
        }

        return false;
    }
}
