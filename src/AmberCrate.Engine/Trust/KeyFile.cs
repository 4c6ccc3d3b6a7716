using System.Security.Cryptography;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Host;
using Org.BouncyCastle.Math.EC.Rfc8032;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// A private key in a file: PEM with PKCS#8 (RFC 7468, RFC 5958), of ECDSA on P-256, with or without a passphrase, or of Ed25519
/// (RFC 8410). Only its owner may read it.
/// </summary>
public static class KeyFile
{
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const UnixFileMode OfOthers = UnixFileMode.GroupRead | UnixFileMode.GroupWrite | UnixFileMode.OtherRead
        | UnixFileMode.OtherWrite;
    private const UnixFileMode PublicMode = OwnerOnly | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const int Rounds = 200_000, MostBytes = 64 << 10;

    // RFC 8410: the frame around the 32 bytes of an Ed25519 key.
    private static readonly byte[] Ed25519Frame = Convert.FromHexString("302e020100300506032b657004220420");

    // RFC 8410: the frame around the 32 bytes of a public one.
    private static readonly byte[] Ed25519PublicFrame = Convert.FromHexString("302a300506032b6570032100");

    /// <summary>The file of the public key beside a key's file: what a maintainer gives to others.</summary>
    public static string PublicOf(string path) => Path.ChangeExtension(path, ".public.pem");

    /// <summary>Reads a public key.</summary>
    /// <param name="path">The file: PEM with a SubjectPublicKeyInfo (RFC 7468), of ECDSA on P-256 or of Ed25519.</param>
    /// <exception cref="ProblemException">There is no such file, or it is none.</exception>
    public static TrustKey ReadPublic(string path)
    {
        if (!File.Exists(path) || new FileInfo(path).Length > MostBytes)
            throw new Problem(ProblemCode.NothingMatched, $"there is no public key {path}").ToException();
        var text = File.ReadAllText(path);
        try
        {
            var fields = PemEncoding.Find(text);
            if (text[fields.Label] != "PUBLIC KEY")
                throw new FormatException($"it is a {text[fields.Label].ToLowerInvariant()}");
            var bytes = Convert.FromBase64String(text[fields.Base64Data]);
            if (bytes.AsSpan().StartsWith(Ed25519PublicFrame)
                && bytes.Length == Ed25519PublicFrame.Length + Ed25519.PublicKeySize)
                return KeyText.OfEd25519(bytes[Ed25519PublicFrame.Length..]);
            using var key = ECDsa.Create();
            key.ImportSubjectPublicKeyInfo(bytes, out _);
            return key.ExportParameters(includePrivateParameters: false).Curve.Oid.Value == ECCurve.NamedCurves.nistP256.Oid.Value
                ? KeyText.OfEcdsa(key)
                : throw new FormatException("it is on another curve than P-256");
        }
        catch (Exception fault) when (fault is CryptographicException or ArgumentException or FormatException)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"{path} is no public key", fault.Message,
                $"give the file that {NextCommand.Create("catalogue keys new")} writes beside the key, "
                    + "such as targets.public.pem")
                .ToException(fault);
        }
    }

    /// <summary>Makes a key and writes it, and its public key beside it.</summary>
    /// <param name="path">The file; it must not be there.</param>
    /// <param name="type">The type: <see cref="TrustKey.Ecdsa"/> or <see cref="TrustKey.Ed25519"/>.</param>
    /// <param name="passphrase">The passphrase; null for none. Ed25519 takes none here.</param>
    /// <exception cref="ProblemException">It is there already, or cannot be written.</exception>
    public static TrustKey Create(string path, string type, string? passphrase)
    {
        if (Path.Exists(path)) throw IsThere(path).ToException();
        if (type == TrustKey.Ed25519)
        {
            if (passphrase is not null)
                throw new Problem(
                    ProblemCode.BadCommandLine, "a passphrase protects keys of type ecdsa only",
                    remedy: "leave out --type, or the passphrase").ToException();
            var secret = RandomNumberGenerator.GetBytes(Ed25519.SecretKeySize);
            Write(path, PemEncoding.WriteString("PRIVATE KEY", [.. Ed25519Frame, .. secret]));
        }
        else
        {
            using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
            Write(path, passphrase is null
                ? key.ExportPkcs8PrivateKeyPem()
                : key.ExportEncryptedPkcs8PrivateKeyPem(
                    passphrase, new PbeParameters(PbeEncryptionAlgorithm.Aes256Cbc, HashAlgorithmName.SHA256, Rounds)));
        }

        return Complete(path, passphrase);
    }

    /// <summary>The fault if a key would be overwritten.</summary>
    internal static Problem IsThere(string path) => new(
        ProblemCode.Refused, $"there is a file {path} already",
        "a key is never overwritten: what it has signed would be lost");

    /// <summary>Writes the public key beside a key that is there.</summary>
    internal static TrustKey Complete(string path, string? passphrase)
    {
        var made = Open(path, passphrase).Key;
        AtomicFile.Write(
            PublicOf(path),
            System.Text.Encoding.ASCII.GetBytes(made.Type == TrustKey.Ed25519
                ? PemEncoding.WriteString("PUBLIC KEY", [.. Ed25519PublicFrame, .. Convert.FromHexString(made.Public)]) + "\n"
                : made.Public),
            PublicMode);
        return made;
    }

    /// <summary>The passphrase in a file: its first line.</summary>
    /// <exception cref="ProblemException">There is no such file.</exception>
    public static string ReadPassphrase(string path) => File.Exists(path)
        ? File.ReadLines(path).FirstOrDefault("")
        : throw new Problem(ProblemCode.NothingMatched, $"there is no file {path}").ToException();

    /// <summary>Whether a file has a key with a passphrase.</summary>
    public static bool HasPassphrase(string path)
    {
        try
        {
            return File.ReadLines(path).Take(1).Any(line => line.Contains("ENCRYPTED", StringComparison.Ordinal));
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return false;
        }
    }

    /// <summary>Opens a key.</summary>
    /// <exception cref="ProblemException">Others can read it, the passphrase is wrong, or it is none.</exception>
    public static ISigner Open(string path, string? passphrase)
    {
        if (!File.Exists(path) || new FileInfo(path).Length > MostBytes)
            throw new Problem(ProblemCode.NothingMatched, $"there is no key {path}").ToException();
        if ((File.GetUnixFileMode(path) & OfOthers) != 0)
            throw new Problem(
                ProblemCode.Refused, $"the key {path} can be read by others", "whoever has it can sign in your name",
                $"chmod 600 {path}; if another user may have read it, replace it: {NextCommand.Create("catalogue keys rotate")}")
                .ToException();
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        if (!FileOwnership.IsOurs(path) || !FileOwnership.IsOurs(folder))
            throw new Problem(
                ProblemCode.Refused, $"the key {path} can be changed by others", "they could put a key of their own in its place",
                $"see whose it is; chmod go-w {folder}").ToException();
        var text = File.ReadAllText(path);
        try
        {
            var fields = PemEncoding.Find(text);
            var isEncrypted = text[fields.Label].StartsWith("ENCRYPTED", StringComparison.Ordinal);
            if (isEncrypted && passphrase is null)
                throw new Problem(
                    ProblemCode.NoRights, $"the key {path} has a passphrase",
                    remedy: "give it with --passphrase-file FILE, or in ACRATE_KEY_PASSPHRASE").ToException();
            var bytes = Convert.FromBase64String(text[fields.Base64Data]);
            var isEd25519 = !isEncrypted && bytes.AsSpan().StartsWith(Ed25519Frame)
                && bytes.Length == Ed25519Frame.Length + Ed25519.SecretKeySize;
            if (isEd25519) return new Ed25519Signer(bytes[Ed25519Frame.Length..]);
            var key = ECDsa.Create();
            if (isEncrypted) key.ImportFromEncryptedPem(text, passphrase);
            else key.ImportFromPem(text);
            return new EcdsaSigner(key);
        }
        catch (Exception fault) when (fault is CryptographicException or ArgumentException or FormatException)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"the key {path} cannot be read", fault.Message,
                "check the passphrase; the file must be a private key in PEM").ToException(fault);
        }
    }

    private static void Write(string path, string pem) =>
        AtomicFile.Write(path, System.Text.Encoding.ASCII.GetBytes(pem + "\n"), OwnerOnly);

    private sealed class EcdsaSigner(ECDsa key) : ISigner
    {
        public TrustKey Key { get; } = KeyText.OfEcdsa(key);

        public byte[] Sign(byte[] message) =>
            key.SignData(message, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);
    }

    private sealed class Ed25519Signer : ISigner
    {
        private readonly byte[] _secret;

        public Ed25519Signer(byte[] secret)
        {
            _secret = secret;
            var key = new byte[Ed25519.PublicKeySize];
            Ed25519.GeneratePublicKey(secret, 0, key, 0);
            Key = KeyText.OfEd25519(key);
        }

        public TrustKey Key { get; }

        public byte[] Sign(byte[] message)
        {
            var signature = new byte[Ed25519.SignatureSize];
            Ed25519.Sign(_secret, 0, message, 0, message.Length, signature, 0);
            return signature;
        }
    }
}
