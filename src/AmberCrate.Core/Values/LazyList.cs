using System.Collections;

namespace AmberCrate.Core.Values;

/// <summary>A list whose items are made when they are first asked for, and kept.</summary>
/// <param name="count">How many there are.</param>
/// <param name="make">Makes one. Two threads that ask at once may each get their own, equal one.</param>
internal sealed class LazyList<T>(int count, Func<int, T> make) : IReadOnlyList<T>
    where T : class
{
    private readonly T?[] _items = new T?[count];

    /// <inheritdoc/>
    public int Count => _items.Length;

    /// <inheritdoc/>
    public T this[int index] => _items[index] ??= make(index);

    /// <inheritdoc/>
    public IEnumerator<T> GetEnumerator()
    {
        for (var at = 0; at < _items.Length; at++) yield return this[at];
    }

    /// <inheritdoc/>
    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
