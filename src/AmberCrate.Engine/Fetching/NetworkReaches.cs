using System.Net;
using System.Net.Sockets;

namespace AmberCrate.Engine.Fetching;

/// <summary>Says how far inside addresses lie.</summary>
internal static class NetworkReaches
{
    /// <summary>Networks that are not the internet, by the registries of RFC 6890 as far as they can be dialled.</summary>
    private static readonly (IPNetwork Network, NetworkReach Reach)[] Known =
    [
        (IPNetwork.Parse("0.0.0.0/8"), NetworkReach.Machine), (IPNetwork.Parse("127.0.0.0/8"), NetworkReach.Machine),
        (IPNetwork.Parse("169.254.0.0/16"), NetworkReach.Machine), (IPNetwork.Parse("::/127"), NetworkReach.Machine),
        (IPNetwork.Parse("fe80::/10"), NetworkReach.Machine), (IPNetwork.Parse("10.0.0.0/8"), NetworkReach.Private),
        (IPNetwork.Parse("172.16.0.0/12"), NetworkReach.Private), (IPNetwork.Parse("192.168.0.0/16"), NetworkReach.Private),
        (IPNetwork.Parse("100.64.0.0/10"), NetworkReach.Private), (IPNetwork.Parse("fc00::/7"), NetworkReach.Private),
        (IPNetwork.Parse("fec0::/10"), NetworkReach.Private),
    ];

    /// <summary>How far inside an address lies.</summary>
    public static NetworkReach Classify(IPAddress address)
    {
        var plain = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        return Known.Where(known => known.Network.Contains(plain)).Select(known =>
            known.Reach).FirstOrDefault(NetworkReach.Internet);
    }

    /// <summary>
    /// How far inside the host of an address lies: with several addresses, the outermost counts. A file is on this machine; a
    /// name that is not known is nowhere inside.
    /// </summary>
    public static async Task<NetworkReach> OfAsync(Uri address, CancellationToken cancel)
    {
        if (address.IsFile || address.IsLoopback) return NetworkReach.Machine;
        if (IPAddress.TryParse(address.DnsSafeHost, out var literal)) return Classify(literal);
        try
        {
            var found = await Dns.GetHostAddressesAsync(address.DnsSafeHost, cancel);
            return found.Length == 0 ? NetworkReach.Internet : found.Min(Classify);
        }
        catch (SocketException)
        {
            return NetworkReach.Internet;
        }
    }
}
