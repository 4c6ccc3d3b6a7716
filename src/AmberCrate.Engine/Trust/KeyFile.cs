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
    private const int Rounds = 200_000, MostBytes = 64 << 10;

    // RFC 8410: the frame around the 32 bytes of an Ed25519 key.
    private static readonly byte[] Ed25519Frame = Convert.FromHexString("302e020100300506032b657004220420");

    /// <summary>Makes a key and writes it.</summary>
    /// <param name="path">The file; it must not be there.</param>
    /// <param name="type">The type: <see cref="TrustKey.Ecdsa"/> or <see cref="TrustKey.Ed25519"/>.</param>
    /// <param name="passphrase">The passphrase; null for none. Ed25519 takes none here.</param>
    /// <exception cref="ProblemException">It is there already, or cannot be written.</exception>
    public static TrustKey Create(string path, string type, string? passphrase)
    {
        if (Path.Exists(path))
            throw new Problem(
                ProblemCode.Refused, $"there is a file {path} already",
                "a key is never overwritten: what it has signed would be lost")
                .ToException();
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

        return Open(path, passphrase).Key;
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
                $"chmod 600 {path}; if somebody may have read it, replace it: {NextCommand.Of("catalogue keys rotate")}")
                .ToException();
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        if (!OwnFile.IsOurs(path) || !OwnFile.IsOurs(folder))
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
