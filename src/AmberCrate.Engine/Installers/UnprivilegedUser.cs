using System.Globalization;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// A user without any rights, as whom a process of root runs foreign programs. Its number is one that nobody gives to anybody:
/// 60578 to 61183 are unused in the table "Users, Groups, UIDs and GIDs on Linux systems" of the UAPI group.
/// </summary>
internal static class UnprivilegedUser
{
    private const uint First = 60578, Count = 606;

    /// <summary>The number of such a user; null where this process is not root, and needs none.</summary>
    public static uint? Number()
    {
        if (Posix.EffectiveUser() != 0) return null;
        var from = (uint)(Environment.ProcessId % Count);
        var taken = Taken();
        return Enumerable.Range(0, (int)Count).Select(step => First + ((from + (uint)step) % Count))
            .FirstOrDefault(number => !taken.Contains(number), First);
    }

    /// <summary>The numbers of /etc/passwd, as passwd(5) describes it.</summary>
    private static HashSet<uint> Taken() => [.. Posix.Lines("/etc/passwd").Select(line => line.Split(':'))
        .Where(fields => fields.Length > 2)
        .Select(fields => uint.TryParse(fields[2], NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number
            : 0)];
}
