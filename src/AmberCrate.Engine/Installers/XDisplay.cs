using System.Buffers.Binary;
using System.Diagnostics;
using System.Net.Sockets;
using System.Text;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// A connection to an X server that only asks which windows it shows, after the X Window System Protocol, version 11. The server
/// may have been taken over by a program that it shows: every length and the time of a look are bounded.
/// </summary>
internal sealed class XDisplay : IDisposable
{
    private const byte QueryTree = 15, GetWindowAttributes = 3, GetGeometry = 14, GetProperty = 20, InternAtom = 16;
    private const int MostReply = 1 << 20, ReplySize = 32, SmallestSide = 10, Patience = 3000, MostWindows = 500;
    private static readonly TimeSpan LongestLook = TimeSpan.FromSeconds(10);
    private const uint WindowName = 39;

    private readonly Socket _socket;
    private readonly uint _root, _name;
    private long _begun = Stopwatch.GetTimestamp();

    private XDisplay(Socket socket)
    {
        _socket = socket;
        _root = Connect();
        _name = Intern("_NET_WM_NAME");
    }

    /// <summary>Connects; null where the server does not answer yet.</summary>
    /// <param name="path">The path of its socket.</param>
    public static XDisplay? TryOpen(string path)
    {
        var socket = new Socket(AddressFamily.Unix, SocketType.Stream, ProtocolType.Unspecified)
        {
            ReceiveTimeout = Patience, SendTimeout = Patience,
        };
        try
        {
            socket.Connect(new UnixDomainSocketEndPoint(path));
            return new XDisplay(socket);
        }
        catch (Exception fault) when (fault is SocketException or IOException or InvalidDataException)
        {
            socket.Dispose();
            return null;
        }
    }

    /// <summary>The title of a window that is to be seen, may be empty; null where there is none.</summary>
    /// <exception cref="IOException">The server has gone, or answers with what is no reply.</exception>
    public string? FindWindow()
    {
        _begun = Stopwatch.GetTimestamp();
        try
        {
            var reply = Ask(QueryTree, 0, _root);
            var said = BinaryPrimitives.ReadUInt16LittleEndian(reply.AsSpan(16));
            var count = Math.Min(MostWindows, Math.Min(said, (reply.Length - ReplySize) / 4));
            string? untitled = null;
            for (var at = 0; at < count; at++)
            {
                var window = BinaryPrimitives.ReadUInt32LittleEndian(reply.AsSpan(ReplySize + (at * 4)));
                if (!IsShown(window)) continue;
                if (TitleOf(window) is { Length: > 0 } title) return title;
                untitled = "";
            }

            return untitled;
        }
        catch (SocketException gone)
        {
            throw new IOException("the X server has gone", gone);
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _socket.Dispose();

    /// <summary>Whether a window is mapped, can show something, and is more than a dot.</summary>
    private bool IsShown(uint window)
    {
        const byte showsOutput = 1, viewable = 2;
        var attributes = Ask(GetWindowAttributes, 0, window);
        if (attributes[0] != 1 || attributes[12] != showsOutput || attributes[26] != viewable) return false;
        var geometry = Ask(GetGeometry, 0, window);
        return geometry[0] == 1 && BinaryPrimitives.ReadUInt16LittleEndian(geometry.AsSpan(16)) >= SmallestSide
            && BinaryPrimitives.ReadUInt16LittleEndian(geometry.AsSpan(18)) >= SmallestSide;
    }

    private string TitleOf(uint window) =>
        Property(window, _name) is { Length: > 0 } title ? title : Property(window, WindowName);

    private string Property(uint window, uint property)
    {
        const uint anyType = 0, longWords = 64;
        var reply = Ask(GetProperty, 0, window, property, anyType, 0, longWords);
        if (reply[0] != 1) return "";
        var length = Math.Min(BinaryPrimitives.ReadUInt32LittleEndian(reply.AsSpan(16)), (uint)(reply.Length - ReplySize));
        var text = Encoding.UTF8.GetString(reply, ReplySize, (int)length);
        return string.Concat(text.Where(letter => !char.IsControl(letter))).Trim();
    }

    private uint Intern(string name)
    {
        var bytes = Encoding.ASCII.GetBytes(name);
        var request = new byte[8 + ((bytes.Length + 3) / 4 * 4)];
        request[0] = InternAtom;
        BinaryPrimitives.WriteUInt16LittleEndian(request.AsSpan(2), (ushort)(request.Length / 4));
        BinaryPrimitives.WriteUInt16LittleEndian(request.AsSpan(4), (ushort)bytes.Length);
        bytes.CopyTo(request, 8);
        _socket.Send(request);
        return BinaryPrimitives.ReadUInt32LittleEndian(Reply().AsSpan(8));
    }

    /// <summary>
    /// Greets the server in little endian, without authorisation, and takes the root window of its first screen.
    /// </summary>
    private uint Connect()
    {
        byte[] greeting = [(byte)'l', 0, 11, 0, 0, 0, 0, 0, 0, 0, 0, 0];
        _socket.Send(greeting);
        var head = Read(8);
        var rest = Read(4 * BinaryPrimitives.ReadUInt16LittleEndian(head.AsSpan(6)));
        if (head[0] != 1 || rest.Length < 32) throw new InvalidDataException("the X server refuses the connection");
        var vendor = BinaryPrimitives.ReadUInt16LittleEndian(rest.AsSpan(16));
        var (formats, screens) = (rest[21], 32 + ((vendor + 3) / 4 * 4));
        var first = screens + (formats * 8);
        return first + 4 <= rest.Length
            ? BinaryPrimitives.ReadUInt32LittleEndian(rest.AsSpan(first))
            : throw new InvalidDataException("the X server has no screen");
    }

    private byte[] Ask(byte code, byte detail, params uint[] words)
    {
        var request = new byte[4 + (words.Length * 4)];
        (request[0], request[1]) = (code, detail);
        BinaryPrimitives.WriteUInt16LittleEndian(request.AsSpan(2), (ushort)(request.Length / 4));
        for (var at = 0; at < words.Length; at++)
            BinaryPrimitives.WriteUInt32LittleEndian(request.AsSpan(4 + (at * 4)), words[at]);
        _socket.Send(request);
        return Reply();
    }

    /// <summary>The next reply, or error: events, which were not asked for, are passed over.</summary>
    private byte[] Reply()
    {
        const byte isError = 0, isReply = 1;
        while (true)
        {
            var head = Read(ReplySize);
            if (head[0] == isError) return head;
            if (head[0] != isReply) continue;
            var more = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4));
            if (more > MostReply / 4) throw new IOException("the X server answers with too much");
            return more == 0 ? head : [.. head, .. Read((int)more * 4)];
        }
    }

    private byte[] Read(int length)
    {
        var bytes = new byte[length];
        for (var at = 0; at < length;)
        {
            if (Stopwatch.GetElapsedTime(_begun) > LongestLook) throw new IOException("the X server does not come to an end");
            var read = _socket.Receive(bytes.AsSpan(at));
            if (read == 0) throw new IOException("the X server has gone");
            at += read;
        }

        return bytes;
    }
}
