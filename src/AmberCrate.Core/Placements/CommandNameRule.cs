using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>
/// Which names a card may give to commands. What a user types to get more rights or to start a shell must not come from a
/// catalogue; what they type to run this program comes from its own card alone.
/// </summary>
public static class CommandNameRule
{
    /// <summary>What a name must look like, for messages.</summary>
    public const string Expected =
        "a command name of ASCII letters, digits and . _ + -, not that of a shell or of a program that gives rights";

    /// <summary>The command of this program, and the id of the app that it is.</summary>
    public const string Own = "acrate";

    private static readonly HashSet<string> Refused = new(StringComparer.Ordinal)
    {
        "bash", "bwrap", "busybox", "dash", "doas", "env", "fish", "ksh", "login", "newgrp", "passwd", "pkexec",
        "rbash", "run0", "runuser", "setpriv", "sg", "sh", "ssh", "su", "sudo", "sudoedit", "systemd-run", "unshare", "zsh",
    };

    /// <summary>Reads a name; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out FileName? name)
    {
        name = null;
        return text.Length > 0 && char.IsAsciiLetterOrDigit(text[0])
            && text.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '.' or '_' or '+' or '-')
            && !Refused.Contains(text) && FileName.TryParse(text, out name);
    }
}
