using System.Numerics;

namespace AmberCrate.Core.Solving;

/// <summary>A set of the values that a variable may have; values are counted from 0.</summary>
public readonly struct ValueSet : IEquatable<ValueSet>
{
    private const int Width = 64;

    private readonly ulong _first;
    private readonly ulong[]? _rest;

    private ValueSet(ulong first, ulong[]? rest) => (_first, _rest) = (first, rest);

    /// <summary>Whether nothing is in it.</summary>
    public bool IsEmpty => _first == 0 && (_rest is null || Array.TrueForAll(_rest, word => word == 0));

    /// <summary>How many values are in it.</summary>
    public int Count => BitOperations.PopCount(_first) + (_rest?.Sum(word => BitOperations.PopCount(word)) ?? 0);

    /// <summary>The smallest value in it; -1 where it is empty.</summary>
    public int First
    {
        get
        {
            if (_first != 0) return BitOperations.TrailingZeroCount(_first);
            for (var at = 0; at < _rest?.Length; at++)
            {
                if (_rest[at] != 0) return ((at + 1) * Width) + BitOperations.TrailingZeroCount(_rest[at]);
            }

            return -1;
        }
    }

    /// <summary>The values in it, in their order.</summary>
    public IEnumerable<int> Values
    {
        get
        {
            for (var value = 0; value < Width * (1 + (_rest?.Length ?? 0)); value++)
            {
                if (Contains(value)) yield return value;
            }
        }
    }

    /// <summary>The values from 0 to below a number.</summary>
    public static ValueSet Below(int count)
    {
        var words = new ulong[Math.Max(0, (count - 1) / Width)];
        for (var at = 0; at < words.Length; at++) words[at] = Low(count - ((at + 1) * Width));
        return new ValueSet(Low(count), words.Length == 0 ? null : words);

        static ulong Low(int bits) => bits >= Width ? ulong.MaxValue : (1UL << bits) - 1;
    }

    /// <summary>A set of these values.</summary>
    public static ValueSet Create(params IEnumerable<int> values)
    {
        var set = default(ValueSet);
        foreach (var value in values) set |= One(value);
        return set;
    }

    /// <summary>A set of one value.</summary>
    public static ValueSet One(int value)
    {
        if (value < Width) return new ValueSet(1UL << value, null);
        var rest = new ulong[value / Width];
        rest[^1] = 1UL << (value % Width);
        return new ValueSet(0, rest);
    }

    /// <summary>What is in either.</summary>
    public static ValueSet operator |(ValueSet left, ValueSet right) => left.With(right, (a, b) => a | b);

    /// <summary>What is in both.</summary>
    public static ValueSet operator &(ValueSet left, ValueSet right) => left._rest is null || right._rest is null
        ? new ValueSet(left._first & right._first, null)
        : left.With(right, (a, b) => a & b);

    /// <summary>What is in the first and not in the second.</summary>
    public static ValueSet operator -(ValueSet left, ValueSet right) =>
        left._rest is null ? new ValueSet(left._first & ~right._first, null) : left.With(right, (a, b) => a & ~b);

    /// <summary>Whether both hold the same values.</summary>
    public static bool operator ==(ValueSet left, ValueSet right) => left.Equals(right);

    /// <summary>Whether they differ.</summary>
    public static bool operator !=(ValueSet left, ValueSet right) => !left.Equals(right);

    /// <summary>Whether a value is in it.</summary>
    public bool Contains(int value) => value < Width
        ? (_first >> value & 1) != 0
        : _rest is not null && value / Width <= _rest.Length && (_rest[(value / Width) - 1] >> (value % Width) & 1) != 0;

    /// <summary>Whether everything in it is in another too.</summary>
    public bool IsWithin(ValueSet other)
    {
        if ((_first & ~other._first) != 0) return false;
        for (var at = 0; at < _rest?.Length; at++)
        {
            if ((_rest[at] & ~(at < other._rest?.Length ? other._rest[at] : 0)) != 0) return false;
        }

        return true;
    }

    /// <summary>Whether something is in both.</summary>
    public bool Meets(ValueSet other)
    {
        if ((_first & other._first) != 0) return true;
        for (var at = 0; at < _rest?.Length && at < other._rest?.Length; at++)
        {
            if ((_rest[at] & other._rest[at]) != 0) return true;
        }

        return false;
    }

    /// <inheritdoc/>
    public bool Equals(ValueSet other) => IsWithin(other) && other.IsWithin(this);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => obj is ValueSet other && Equals(other);

    /// <inheritdoc/>
    public override int GetHashCode() => _first.GetHashCode();

    /// <inheritdoc/>
    public override string ToString() => $"{{{string.Join(' ', Values)}}}";

    private ValueSet With(ValueSet other, Func<ulong, ulong, ulong> join)
    {
        var length = Math.Max(_rest?.Length ?? 0, other._rest?.Length ?? 0);
        if (length == 0) return new ValueSet(join(_first, other._first), null);
        var rest = new ulong[length];
        for (var at = 0; at < length; at++)
            rest[at] = join(at < _rest?.Length ? _rest[at] : 0, at < other._rest?.Length ? other._rest[at] : 0);
        return new ValueSet(join(_first, other._first), rest);
    }
}
