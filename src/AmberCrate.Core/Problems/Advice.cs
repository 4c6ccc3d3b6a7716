using System.Runtime.CompilerServices;

namespace AmberCrate.Core.Problems;

/// <summary>
/// Words for a user that contain commands of this program as values, not as text. An interpolated string makes one:
/// <c>$"{NextCommand.Create("catalogue refresh")}, in case the catalogue has changed"</c>.
/// </summary>
[InterpolatedStringHandler]
public sealed class Advice : IEquatable<Advice>
{
    private readonly List<object> _parts = [];

    /// <summary>Begins an advice. For the compiler, which calls this for an interpolated string.</summary>
    /// <param name="literalLength">How many characters of it are fixed.</param>
    /// <param name="formattedCount">How many values are put in.</param>
    public Advice(int literalLength, int formattedCount)
    {
        _ = literalLength;
        _parts.Capacity = (2 * formattedCount) + 1;
    }

    /// <summary>No words at all.</summary>
    public static Advice None { get; } = "";

    /// <summary>Whether there are no words.</summary>
    public bool IsEmpty => _parts.Count == 0;

    /// <summary>A text without commands.</summary>
    public static implicit operator Advice(string text)
    {
        var advice = new Advice(text.Length, 0);
        advice.AppendLiteral(text);
        return advice;
    }

    /// <summary>A command and nothing else.</summary>
    public static implicit operator Advice(NextCommand command)
    {
        var advice = new Advice(0, 1);
        advice.AppendFormatted(command);
        return advice;
    }

    /// <summary>
    /// Takes an interpolated string where the compiler would make a plain text of it, as in a choice between two.
    /// </summary>
    public static Advice Combine(Advice advice) => advice;

    /// <summary>Appends fixed words.</summary>
    public void AppendLiteral(string text)
    {
        if (text.Length > 0) _parts.Add(text);
    }

    /// <summary>Appends a command.</summary>
    public void AppendFormatted(NextCommand command) => _parts.Add(command);

    /// <summary>Appends an advice that is part of this one.</summary>
    public void AppendFormatted(Advice advice) => _parts.AddRange(advice._parts);

    /// <summary>Appends any other value.</summary>
    public void AppendFormatted<T>(T value) => AppendLiteral(value?.ToString() ?? "");

    /// <summary>Several advices as one, with the same words between each two.</summary>
    /// <param name="between">The words between.</param>
    /// <param name="advices">The advices; empty ones are left out.</param>
    public static Advice Join(string between, IEnumerable<Advice> advices)
    {
        var joined = new Advice(0, 0);
        foreach (var advice in advices.Where(advice => !advice.IsEmpty))
        {
            if (!joined.IsEmpty) joined.AppendLiteral(between);
            joined.AppendFormatted(advice);
        }

        return joined;
    }

    /// <summary>The words with every command as it is typed for a call with these options.</summary>
    public string In(CallOptions options) => In(options, command => command);

    /// <summary>The same, with every command as it is to be set in the words around it.</summary>
    /// <param name="options">The options of the call.</param>
    /// <param name="set">Sets a command.</param>
    public string In(CallOptions options, Func<string, string> set) =>
        string.Concat(_parts.Select(part => part is NextCommand command ? set(command.In(options)) : (string)part));

    /// <summary>The words with every command as it is typed without any option.</summary>
    public override string ToString() => In(CallOptions.None);

    /// <inheritdoc/>
    public bool Equals(Advice? other) => other is not null && other.ToString() == ToString();

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as Advice);

    /// <inheritdoc/>
    public override int GetHashCode() => ToString().GetHashCode(StringComparison.Ordinal);
}
