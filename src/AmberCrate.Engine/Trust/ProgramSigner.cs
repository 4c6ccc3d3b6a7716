using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// A key that another program holds, such as one that asks a hardware token. docs/formats/trust.md has the protocol: the program
/// is started with <c>public ROLE</c> and writes a public key in PEM, or with <c>sign ROLE</c>, is given the bytes to sign on
/// standard input, and writes the signature in hexadecimal.
/// </summary>
public sealed class ProgramSigner : ISigner
{
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(2);
    private readonly string _program, _role;

    /// <summary>Asks a program for its key.</summary>
    /// <param name="program">The program's absolute path.</param>
    /// <param name="role">The role that it is to sign.</param>
    /// <exception cref="ProblemException">It does not give one.</exception>
    public ProgramSigner(string program, string role)
    {
        (_program, _role) = (program, role);
        var pem = Ask("public", []);
        using var key = System.Security.Cryptography.ECDsa.Create();
        try
        {
            key.ImportFromPem(pem);
            Key = KeyText.OfEcdsa(key);
        }
        catch (Exception fault) when (fault is ArgumentException or System.Security.Cryptography.CryptographicException)
        {
            throw Failed("it gave no public key in PEM").ToException(fault);
        }
    }

    /// <inheritdoc/>
    public TrustKey Key { get; }

    /// <inheritdoc/>
    public byte[] Sign(byte[] message)
    {
        try
        {
            var signature = Convert.FromHexString(Ask("sign", message).Trim());
            return new SignatureCheck().IsValid(Key, message, signature)
                ? signature
                : throw Failed("it gave a signature that is not its key's").ToException();
        }
        catch (FormatException fault)
        {
            throw Failed("it gave no signature in hexadecimal").ToException(fault);
        }
    }

    private string Ask(string what, byte[] input)
    {
        using var process = Start(what);
        var output = process.StandardOutput.ReadToEndAsync();
        try
        {
            process.StandardInput.BaseStream.Write(input);
            process.StandardInput.Close();
        }
        catch (IOException)
        {
            // It does not read what it is given: what it answers decides.
        }

        if (!process.WaitForExit(Patience))
        {
            process.Kill(entireProcessTree: true);
            throw Failed($"it has not answered for {Patience.TotalMinutes:0} minutes").ToException();
        }

        return process.ExitCode == 0
            ? output.GetAwaiter().GetResult()
            : throw Failed($"it ended with {process.ExitCode}").ToException();
    }

    private Process Start(string what)
    {
        try
        {
            return Process.Start(new ProcessStartInfo(_program, [what, _role])
            {
                RedirectStandardInput = true, RedirectStandardOutput = true, UseShellExecute = false,
            })!;
        }
        catch (System.ComponentModel.Win32Exception fault)
        {
            throw Failed($"it cannot be started: {fault.Message}").ToException(fault);
        }
    }

    private Problem Failed(string why) =>
        new(ProblemCode.NotVerified, $"{_program} has not signed for {_role}", why, "nothing has been published");
}
