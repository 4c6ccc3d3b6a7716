using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Tests.Host;

public sealed class AuthorityCertificatesTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Theory]
    [InlineData("etc/ssl/certs/ca-certificates.crt")]
    [InlineData("etc/pki/tls/certs/ca-bundle.crt")]
    [InlineData("etc/pki/ca-trust/extracted/pem/tls-ca-bundle.pem")]
    [InlineData("var/lib/ca-certificates/ca-bundle.pem")]
    [InlineData("etc/ssl/ca-bundle.pem")]
    [InlineData("etc/ssl/cert.pem")]
    public void They_are_found_where_a_distribution_keeps_them(string file)
    {
        AuthorityCertificates.Find(_folder.Path).ShouldBeNull();
        Directory.CreateDirectory(Path.GetDirectoryName(_folder[file])!);
        File.WriteAllText(_folder[file], "");
        AuthorityCertificates.Find(_folder.Path).ShouldBe(_folder[file]);
        AuthorityCertificates.IsKnown(_ => null, _folder.Path).ShouldBeFalse();
    }

    [Theory]
    [InlineData("SSL_CERT_FILE")]
    [InlineData("SSL_CERT_DIR")]
    public void What_a_person_names_is_left_alone(string variable) =>
        AuthorityCertificates.IsKnown(name => name == variable ? "/srv/own.pem" : null, _folder.Path).ShouldBeTrue();

    [Fact]
    public void Where_openssl_finds_them_by_itself_nothing_is_set()
    {
        Directory.CreateDirectory(_folder["usr/lib/ssl/certs"]);
        AuthorityCertificates.IsKnown(_ => null, _folder.Path).ShouldBeFalse("an empty folder holds none");
        File.WriteAllText(_folder["usr/lib/ssl/certs/stage.pem"], "");
        AuthorityCertificates.IsKnown(_ => null, _folder.Path).ShouldBeTrue();
    }

    public void Dispose() => _folder.Dispose();
}
