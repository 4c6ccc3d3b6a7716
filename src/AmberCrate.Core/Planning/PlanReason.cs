using AmberCrate.Core.Cards;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>One of the facts that make a plan impossible, in words for the user.</summary>
internal abstract record PlanReason(AppId About)
{
    /// <summary>The user asks for an app.</summary>
    public sealed record AskedFor(AppId About, VersionSelector? Selector, bool IsNarrower) : PlanReason(About)
    {
        public override string ToString() => Selector is not null
            ? $"you asked for {About}@{Selector}"
            : IsNarrower ? $"you asked for {About}, which means its usual line" : $"you asked for {About}";
    }

    /// <summary>A version is planned already, for the goals before.</summary>
    public sealed record Planned(AppId About, AppVersion? Version) : PlanReason(About)
    {
        public override string ToString() => Version is null ? $"{About} is not to be there" : $"{About} {Version} is planned";
    }

    /// <summary>An installed app follows a version, a range or a line.</summary>
    public sealed record Held(AppId About, AppVersion Version, VersionSelector? Selector) : PlanReason(About)
    {
        public override string ToString() =>
            Selector is null ? $"{About} {Version} follows its usual line" : $"{About} {Version} follows @{Selector}";
    }

    /// <summary>The user did not ask for an older version of an installed app.</summary>
    public sealed record NotOlder(AppId About, AppVersion Version) : PlanReason(About)
    {
        public override string ToString() => $"{About} {Version} is not replaced by an older version";
    }

    /// <summary>An app is pinned.</summary>
    public sealed record PinnedTo(Pin Pin) : PlanReason(Pin.App)
    {
        public override string ToString() => $"{About} is {Pin.Words}";
    }

    /// <summary>An app does not work without another.</summary>
    public sealed record Needs(AppId About, string Which, RelatedApp Other, bool IsOffered) : PlanReason(About)
    {
        public override string ToString() =>
            $"{Which} {Verb(Which)} {Other}{(IsOffered ? "" : ", and no such release is offered for this machine")}";

        private static string Verb(string which) => which.Contains(" to ", StringComparison.Ordinal)
            || which.Contains(" and ", StringComparison.Ordinal) ? "need" : "needs";
    }

    /// <summary>An app cannot be there beside another.</summary>
    public sealed record Excludes(AppId About, string Which, RelatedApp Other) : PlanReason(About)
    {
        public override string ToString() => $"{Which} cannot be there beside {Other}";
    }
}
