using System.Buffers.Binary;
using System.Text;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// What the loader reads from a program or a shared library, after the ELF specification (System V ABI, "Object Files" and
/// "Program Loading and Dynamic Linking").
/// </summary>
/// <param name="Is64">Whether it is for 64 bits.</param>
/// <param name="Machine">The number of the architecture.</param>
/// <param name="Interpreter">The loader that it asks for; null for none.</param>
/// <param name="Needed">The libraries that it asks for.</param>
/// <param name="SearchPaths">Where it has them searched first; <c>$ORIGIN</c> means its own folder.</param>
internal sealed record ElfFile(
    bool Is64, int Machine, string? Interpreter, IReadOnlyList<string> Needed, IReadOnlyList<string> SearchPaths)
{
    private const int Load = 1, Dynamic = 2, Interp = 3;
    private const long DtNeeded = 1, DtStrings = 5, DtRPath = 15, DtRunPath = 29, DtDefinitions = 0x6ffffffc,
        DtNeededVersions = 0x6ffffffe;
    private const int MostHeaders = 200, MostDynamic = 1 << 20, MostText = 4096, MostVersions = 4096;

    /// <summary>
    /// The versions of symbols that it must find, with the library of each; versions that may be missing are not among them.
    /// Empty where they were not read.
    /// </summary>
    public IReadOnlyList<(string Library, string Version)> NeededVersions { get; init; } = [];

    /// <summary>The versions of symbols that it has for others. Empty where they were not read.</summary>
    public IReadOnlyList<string> DefinedVersions { get; init; } = [];

    /// <summary>Reads a file; null where it is not an ELF file, or not a proper one.</summary>
    public static ElfFile? Read(string path) => Read(path, reader => reader.Read());

    /// <summary>Reads a file with the versions of its symbols; null where it is not an ELF file, or not a proper one.</summary>
    public static ElfFile? ReadWithVersions(string path) => Read(path, reader => reader.ReadWithVersions());

    /// <summary>The number of the architecture of a file; null where it is not an ELF file. Reads the first bytes only.</summary>
    public static int? ReadMachine(string path)
    {
        const int machineAt = 18;
        try
        {
            using var file = File.OpenHandle(path);
            Span<byte> head = stackalloc byte[machineAt + sizeof(ushort)];
            if (RandomAccess.Read(file, head, 0) < head.Length || !head.StartsWith("\u007fELF"u8)) return null;
            return head[5] == 1
                ? BinaryPrimitives.ReadUInt16LittleEndian(head[machineAt..])
                : BinaryPrimitives.ReadUInt16BigEndian(head[machineAt..]);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException)
        {
            return null;
        }
    }

    private static ElfFile? Read(string path, Func<Reader, ElfFile?> read)
    {
        try
        {
            using var file = File.OpenRead(path);
            return read(new Reader(file));
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException
            or OverflowException or IndexOutOfRangeException)
        {
            return null;
        }
    }

    /// <summary>The name of an architecture, by its number in ELF files; null for one that is not known here.</summary>
    public static string? ArchitectureOf(int machine) => ProcessorArchitecture.OfElf(machine)?.Name;

    private sealed class Reader(FileStream file)
    {
        private bool _is64;
        private bool _isLittle;
        private bool _readsVersions;
        private readonly List<(string, string)> _neededVersions = [];
        private readonly List<string> _definedVersions = [];

        public ElfFile? ReadWithVersions()
        {
            _readsVersions = true;
            return Read();
        }

        public ElfFile? Read()
        {
            var head = Bytes(0, 64);
            if (!head.AsSpan().StartsWith("\u007fELF"u8)) return null;
            (_is64, _isLittle) = (head[4] == 2, head[5] == 1);
            var (machine, table) = ((int)Number(head, 18, 2), Number(head, _is64 ? 32 : 28, _is64 ? 8 : 4));
            var (size, count) = ((int)Number(head, _is64 ? 54 : 42, 2), (int)Number(head, _is64 ? 56 : 44, 2));
            if (count > MostHeaders) return null;
            var headers = Enumerable.Range(0, count).Select(at => Header(Bytes(table + (long)at * size, size))).ToList();
            var interpreter =
                headers.Where(header => header.Type == Interp).Select(header => Text(header.Offset)).FirstOrDefault();
            var needed = new List<string>();
            var paths = new List<string>();
            foreach (var header in headers.Where(header => header.Type == Dynamic && header.Size <= MostDynamic))
                ReadDynamic(header, headers, needed, paths);
            return new ElfFile(_is64, machine, interpreter, needed, paths)
            {
                NeededVersions = _neededVersions, DefinedVersions = _definedVersions,
            };
        }

        private void ReadDynamic(
            (long Type, long Offset, long Address, long Size) dynamic,
            List<(long Type, long Offset, long Address, long Size)> headers,
            List<string> needed,
            List<string> paths)
        {
            var width = _is64 ? 8 : 4;
            var bytes = Bytes(dynamic.Offset, (int)dynamic.Size);
            var entries = Enumerable.Range(0, bytes.Length / (2 * width))
                .Select(at => (Tag: Number(bytes, at * 2 * width, width), Value: Number(bytes, (at * 2 + 1) * width, width)))
                .TakeWhile(entry => entry.Tag != 0)
                .ToList();
            var strings = OffsetOf(DtStrings) ?? 0;
            needed.AddRange(entries.Where(entry => entry.Tag == DtNeeded).Select(entry => Text(strings + entry.Value)));
            var tag = entries.Exists(entry => entry.Tag == DtRunPath) ? DtRunPath : DtRPath;
            paths.AddRange(entries.Where(entry => entry.Tag == tag)
                .SelectMany(entry => Text(strings + entry.Value).Split(':', StringSplitOptions.RemoveEmptyEntries)));
            if (!_readsVersions) return;
            if (OffsetOf(DtNeededVersions) is { } neededAt) ReadNeededVersions(neededAt, strings);
            if (OffsetOf(DtDefinitions) is { } definedAt) ReadDefinedVersions(definedAt, strings);

            // The dynamic section has addresses in memory; the parts that are loaded say where that is in the file.
            long? OffsetOf(long wanted)
            {
                var address = entries.Where(entry => entry.Tag == wanted).Select(entry => entry.Value).FirstOrDefault();
                var part = headers.Find(
                    header => header.Type == Load && address >= header.Address && address < header.Address + header.Size);
                return address == 0 || part.Size == 0 ? null : part.Offset + address - part.Address;
            }
        }

        /// <summary>The table of needed versions: an entry a library, behind it one a version (Verneed and Vernaux).</summary>
        private void ReadNeededVersions(long at, long strings)
        {
            const int weak = 2;
            for (var count = 0; count < MostVersions; count++)
            {
                var entry = Bytes(at, 16);
                var (library, next) = (Text(strings + Number(entry, 4, 4)), Number(entry, 12, 4));
                var version = at + Number(entry, 8, 4);
                for (var left = Math.Min(Number(entry, 2, 2), MostVersions); left > 0; left--)
                {
                    var auxiliary = Bytes(version, 16);
                    if ((Number(auxiliary, 4, 2) & weak) == 0)
                        _neededVersions.Add((library, Text(strings + Number(auxiliary, 8, 4))));
                    if (Number(auxiliary, 12, 4) is not (> 0 and var step)) break;
                    version += step;
                }

                if (next <= 0) return;
                at += next;
            }
        }

        /// <summary>The table of defined versions (Verdef and Verdaux); the first entry is the library itself.</summary>
        private void ReadDefinedVersions(long at, long strings)
        {
            const int itself = 1;
            for (var count = 0; count < MostVersions; count++)
            {
                var entry = Bytes(at, 20);
                if ((Number(entry, 2, 2) & itself) == 0)
                    _definedVersions.Add(Text(strings + Number(Bytes(at + Number(entry, 12, 4), 8), 0, 4)));
                if (Number(entry, 16, 4) is not (> 0 and var next)) return;
                at += next;
            }
        }

        private (long Type, long Offset, long Address, long Size) Header(byte[] header) => _is64
            ? (Number(header, 0, 4), Number(header, 8, 8), Number(header, 16, 8), Number(header, 32, 8))
            : (Number(header, 0, 4), Number(header, 4, 4), Number(header, 8, 4), Number(header, 16, 4));

        private long Number(byte[] bytes, int at, int width)
        {
            var span = bytes.AsSpan(at, width);
            return width switch
            {
                2 => _isLittle ? BinaryPrimitives.ReadUInt16LittleEndian(span) : BinaryPrimitives.ReadUInt16BigEndian(span),
                4 => _isLittle ? BinaryPrimitives.ReadUInt32LittleEndian(span) : BinaryPrimitives.ReadUInt32BigEndian(span),
                _ => _isLittle ? BinaryPrimitives.ReadInt64LittleEndian(span) : BinaryPrimitives.ReadInt64BigEndian(span),
            };
        }

        private string Text(long at)
        {
            var bytes = new byte[MostText];
            file.Position = at;
            var length = file.ReadAtLeast(bytes, MostText, throwOnEndOfStream: false);
            var end = bytes.AsSpan(0, length).IndexOf((byte)0);
            return Encoding.UTF8.GetString(bytes, 0, Math.Max(0, end));
        }

        private byte[] Bytes(long at, int length)
        {
            var bytes = new byte[length];
            file.Position = at;
            file.ReadExactly(bytes);
            return bytes;
        }
    }
}
