namespace AmberCrate.Core.Formats;

/// <summary>The documentation of a key.</summary>
internal interface IKey
{
    /// <summary>Its name.</summary>
    string Name { get; }

    /// <summary>Whether it must be there.</summary>
    bool IsRequired { get; }

    /// <summary>What it means.</summary>
    string Meaning { get; }

    /// <summary>How its value is written.</summary>
    ValueFormat Format { get; }
}
