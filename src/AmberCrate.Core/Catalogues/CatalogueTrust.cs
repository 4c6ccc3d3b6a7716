using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>Why what a catalogue says is believed.</summary>
public sealed record CatalogueTrust
{
    private const string OfCards = "cards", OfNobody = "unsigned";

    private CatalogueTrust(string text) => Text = text;

    /// <summary>It is a folder of cards of its owner's own, which cannot be signed.</summary>
    public static CatalogueTrust Cards { get; } = new(OfCards);

    /// <summary>It is published and not signed; a user has said that it is to be believed all the same.</summary>
    public static CatalogueTrust NotSigned { get; } = new(OfNobody);

    /// <summary>How it is written in the records.</summary>
    public string Text { get; }

    /// <summary>The digest of the root that was trusted first; null where it is not signed.</summary>
    public Sha256Digest? Root { get; private init; }

    /// <summary>It is signed, under a root that was trusted.</summary>
    public static CatalogueTrust FromRoot(Sha256Digest root) => new(root.Hex) { Root = root };

    /// <summary>Reads it as it is written in the records.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static CatalogueTrust Parse(string text) => text switch
    {
        OfCards => Cards,
        OfNobody => NotSigned,
        _ => FromRoot(Sha256Digest.Parse(text)),
    };
}
