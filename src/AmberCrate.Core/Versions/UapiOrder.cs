namespace AmberCrate.Core.Versions;

/// <summary>
/// The comparison of the UAPI.10 version format specification, step by step and without additions.
/// Characters other than <c>a-z A-Z 0-9 - . ~ ^</c> separate segments and are otherwise skipped.
/// </summary>
/// <remarks>Source: The Linux Userspace API Group, UAPI.10 "Version Format Specification". Step numbers are its own.</remarks>
public static class UapiOrder
{
    /// <summary>
    /// Compares two version strings: negative, zero or positive as <paramref name="left"/> is older, equal or newer.
    /// </summary>
    public static int Compare(ReadOnlySpan<char> left, ReadOnlySpan<char> right)
    {
        while (true)
        {
            // Step 1: what is no part of a version is skipped.
            left = SkipForeign(left);
            right = SkipForeign(right);

            // Step 2: a tilde marks a pre-release and is older than anything, the end of the string included.
            if (StepOver('~', ref left, ref right, out var order)) return order;

            // Step 3: the longer one is newer.
            if (left.IsEmpty || right.IsEmpty) return right.IsEmpty.CompareTo(left.IsEmpty);

            // Steps 4 to 6: a separator is older than what continues without one.
            if (StepOver('-', ref left, ref right, out order)) return order;
            if (StepOver('^', ref left, ref right, out order)) return order;
            if (StepOver('.', ref left, ref right, out order)) return order;

            // Steps 7 and 8: numbers by value and newer than letters, letters by their code.
            order = StartsWithDigit(left) || StartsWithDigit(right)
                ? CompareNumbers(ref left, ref right)
                : CompareLetters(ref left, ref right);
            if (order != 0) return order;
        }
    }

    private static bool StepOver(char mark, ref ReadOnlySpan<char> left, ref ReadOnlySpan<char> right, out int order)
    {
        var onLeft = left.StartsWith(mark);
        var onRight = right.StartsWith(mark);
        order = onRight.CompareTo(onLeft);
        if (order != 0) return true;
        if (onLeft)
        {
            left = left[1..];
            right = right[1..];
        }

        return false;
    }

    private static int CompareNumbers(ref ReadOnlySpan<char> left, ref ReadOnlySpan<char> right)
    {
        var a = TakeWhile(ref left, char.IsAsciiDigit);
        var b = TakeWhile(ref right, char.IsAsciiDigit);
        if (a.IsEmpty || b.IsEmpty) return b.IsEmpty.CompareTo(a.IsEmpty);
        a = a.TrimStart('0');
        b = b.TrimStart('0');
        return a.Length != b.Length ? a.Length.CompareTo(b.Length) : Math.Sign(a.SequenceCompareTo(b));
    }

    private static int CompareLetters(ref ReadOnlySpan<char> left, ref ReadOnlySpan<char> right)
    {
        var a = TakeWhile(ref left, char.IsAsciiLetter);
        var b = TakeWhile(ref right, char.IsAsciiLetter);
        return Math.Sign(a.SequenceCompareTo(b));
    }

    private static ReadOnlySpan<char> TakeWhile(ref ReadOnlySpan<char> text, Func<char, bool> belongs)
    {
        var length = 0;
        while (length < text.Length && belongs(text[length])) length++;
        var taken = text[..length];
        text = text[length..];
        return taken;
    }

    private static ReadOnlySpan<char> SkipForeign(ReadOnlySpan<char> text)
    {
        var start = 0;
        while (start < text.Length && !IsVersionCharacter(text[start])) start++;
        return text[start..];
    }

    private static bool IsVersionCharacter(char c) => char.IsAsciiLetterOrDigit(c) || c is '-' or '.' or '~' or '^';

    private static bool StartsWithDigit(ReadOnlySpan<char> text) => !text.IsEmpty && char.IsAsciiDigit(text[0]);
}
