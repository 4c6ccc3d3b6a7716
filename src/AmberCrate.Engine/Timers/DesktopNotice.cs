using System.Globalization;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Timers;

/// <summary>
/// Tells those who are signed in on the desktop what happened, by <c>org.freedesktop.Notifications</c> on their session bus.
/// Without one, no notice appears.
/// </summary>
/// <param name="bus">The address of this person's session bus; null where there is none.</param>
/// <param name="runtimeFolder">The folder that holds a folder for each person who is signed in.</param>
public sealed class DesktopNotice(string? bus, string runtimeFolder = "/run/user")
{
    private const int ShownMilliseconds = 15_000;
    private const string Name = "org.freedesktop.Notifications", Place = "/org/freedesktop/Notifications";
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    /// <summary>Tells it.</summary>
    /// <param name="title">The heading.</param>
    /// <param name="text">What happened, in one line.</param>
    /// <param name="isForAll">Whether everybody who is signed in gets the notice, which takes root; otherwise this user.</param>
    public void Show(string title, string text, bool isForAll)
    {
        if (ProgramSearch.Trusted("busctl") is not { } program) return;
        if (!isForAll)
        {
            if (bus is not null) Call([program], bus, title, text);
            return;
        }

        if (Posix.EffectiveUser() != 0 || ProgramSearch.Trusted("setpriv") is not { } setpriv
            || !Directory.Exists(runtimeFolder)) return;
        foreach (var folder in Directory.EnumerateDirectories(runtimeFolder))
        {
            var (user, socket) = (Path.GetFileName(folder), Path.Combine(folder, "bus"));
            if (!uint.TryParse(user, NumberStyles.None, CultureInfo.InvariantCulture, out var number) || number == 0
                || Posix.OwnerOf(folder) != number || !Posix.IsThere(socket)) continue;

            // As that person: root's own calls are refused by their bus.
            Call(
                [setpriv, "--reuid", user, "--regid", user, "--clear-groups", "--no-new-privs", "--", program],
                $"unix:path={socket}", title, text);
        }
    }

    private static void Call(string[] program, string address, string title, string text)
    {
        string[] words =
        [
            .. program, $"--address={address}", "--timeout=3", "call", Name, Place, Name, "Notify", "susssasa{sv}i", "acrate",
            "0", "system-software-update", title, text, "0", "0", ShownMilliseconds.ToString(CultureInfo.InvariantCulture),
        ];

        // What root has in its variables is none of that user's business. If it fails, no notice appears; the summary is on
        // standard output all the same.
        SystemProgram.Ask(
            words[0], words[1..], Patience,
            new Dictionary<string, string>(StringComparer.Ordinal) { ["PATH"] = "/usr/bin:/bin" });
    }
}
