using System.Runtime.InteropServices;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>
/// Decompresses xz with the system's liblzma, which takes half the time of managed code. Source: lzma/base.h and lzma/container.h
/// of XZ Utils 5.2.
/// </summary>
internal sealed unsafe partial class LiblzmaStream : ReadOnlyStream
{
    private const string Library = "liblzma.so.5";
    private const uint Concatenated = 0x08;
    private const int BufferSize = 1 << 17;
    private const int Ok = 0, StreamEnd = 1, NoMemory = 5, MemoryLimit = 6, FormatError = 7, OptionsError = 8, DataError = 9,
        BufferError = 10;
    private const int Run = 0, Finish = 3;
    private const ulong DecoderMemory = 200UL << 20;
    private const ulong ThreadsMemory = 72UL << 20;

    private static readonly Lazy<bool> Available =
        new(() => NativeLibrary.TryLoad(Library, typeof(LiblzmaStream).Assembly, null, out _));

    // Since XZ Utils 5.4.
    private static readonly Lazy<nint> ThreadedDecoder = new(() =>
        NativeLibrary.TryLoad(Library, typeof(LiblzmaStream).Assembly, null, out var library)
            && NativeLibrary.TryGetExport(library, "lzma_stream_decoder_mt", out var function) ? function : 0);

    private readonly Stream _compressed;
    private readonly LzmaState* _state;
    private readonly byte* _input;
    private bool _sourceEnded;
    private bool _ended;
    private bool _released;

    public LiblzmaStream(Stream compressed)
    {
        _compressed = compressed;
        _state = (LzmaState*)NativeMemory.AllocZeroed((nuint)sizeof(LzmaState));
        _input = (byte*)NativeMemory.Alloc(BufferSize);
        Check(ThreadedDecoder.Value is 0 ? StreamDecoder(_state, DecoderMemory, Concatenated) : StartThreaded());
    }

    /// <summary>Whether this machine has the library.</summary>
    public static bool IsAvailable => Available.Value;

    /// <summary>The version of the library; null where this machine has none.</summary>
    public static string? Version => IsAvailable ? Marshal.PtrToStringUTF8(VersionCall()) : null;

    public override int Read(Span<byte> buffer)
    {
        if (buffer.IsEmpty || _ended) return 0;
        fixed (byte* output = buffer)
        {
            _state->NextOut = output;
            _state->AvailableOut = (nuint)buffer.Length;
            while (_state->AvailableOut == (nuint)buffer.Length && !_ended)
            {
                Refill();
                var result = Code(_state, _sourceEnded ? Finish : Run);
                if (result == StreamEnd) _ended = true;
                else Check(result);
            }

            return buffer.Length - (int)_state->AvailableOut;
        }
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing) _compressed.Dispose();
        Release();
        base.Dispose(disposing);
    }

    /// <summary>Blocks that were compressed on their own are decompressed side by side, within bounds of memory.</summary>
    private int StartThreaded()
    {
        var options = new Threading
        {
            Flags = Concatenated, Threads = (uint)Environment.ProcessorCount, MemoryForThreads = ThreadsMemory,
            MemoryLimit = DecoderMemory,
        };
        return ((delegate* unmanaged[Cdecl]<LzmaState*, Threading*, int>)ThreadedDecoder.Value)(_state, &options);
    }

    private void Refill()
    {
        if (_state->AvailableIn > 0 || _sourceEnded) return;
        var read = _compressed.Read(new Span<byte>(_input, BufferSize));
        _sourceEnded = read == 0;
        _state->NextIn = _input;
        _state->AvailableIn = (nuint)read;
    }

    private void Release()
    {
        if (_released) return;
        _released = true;
        End(_state);
        NativeMemory.Free(_state);
        NativeMemory.Free(_input);
    }

    private static void Check(int result)
    {
        if (result == Ok) return;
        throw new InvalidDataException(result switch
        {
            FormatError => "the file is not in the xz format",
            DataError => "the xz data are damaged",
            BufferError => "the xz data end too early",
            MemoryLimit or NoMemory => $"unpacking the xz data would take more than {DecoderMemory >> 20} MiB of memory",
            OptionsError => "the xz data use an option that liblzma does not know",
            _ => $"liblzma reports error {result}",
        });
    }

    [LibraryImport(Library, EntryPoint = "lzma_version_string")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint VersionCall();

    [LibraryImport(Library, EntryPoint = "lzma_stream_decoder")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int StreamDecoder(LzmaState* state, ulong memoryLimit, uint flags);

    [LibraryImport(Library, EntryPoint = "lzma_code")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int Code(LzmaState* state, int action);

    [LibraryImport(Library, EntryPoint = "lzma_end")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial void End(LzmaState* state);

    /// <summary>The structure lzma_mt, reserved members included.</summary>
    [StructLayout(LayoutKind.Sequential)]
    private struct Threading
    {
        public uint Flags, Threads;
        public ulong BlockSize;
        public uint Timeout, Preset;
        public void* Filters;
        public int Check, ReservedEnum1, ReservedEnum2, ReservedEnum3;
        public uint Reserved1, Reserved2, Reserved3, Reserved4;
        public ulong MemoryForThreads, MemoryLimit, Reserved7, Reserved8;
        public void* ReservedPointer1, ReservedPointer2, ReservedPointer3, ReservedPointer4;
    }

    /// <summary>The structure lzma_stream, reserved members included.</summary>
    [StructLayout(LayoutKind.Sequential)]
    private struct LzmaState
    {
        public byte* NextIn;
        public nuint AvailableIn;
        public ulong TotalIn;
        public byte* NextOut;
        public nuint AvailableOut;
        public ulong TotalOut;
        public void* Allocator;
        public void* Internal;
        public void* Reserved1, Reserved2, Reserved3, Reserved4;
        public ulong SeekPosition, Reserved5;
        public nuint Reserved6, Reserved7;
        public int Reserved8, Reserved9;
    }
}
