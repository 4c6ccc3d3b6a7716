using System.Net;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// The proxies of the usual variables, but none for this machine itself: a proxy's own loopback is another one.
/// </summary>
internal sealed class LoopbackDirect(IWebProxy usual) : IWebProxy
{
    public ICredentials? Credentials
    {
        get => usual.Credentials;
        set => usual.Credentials = value;
    }

    public Uri? GetProxy(Uri destination) => destination.IsLoopback ? null : usual.GetProxy(destination);

    public bool IsBypassed(Uri host) => host.IsLoopback || usual.IsBypassed(host);
}
