using System.Runtime.InteropServices;

namespace AmberCrate.Playhouse;

/// <summary>Compresses with the system's liblzma, since no managed library writes xz.</summary>
public static unsafe partial class XzEncoder
{
    private const uint Preset = 6;
    private const int Crc64 = 4;

    public static byte[] Encode(byte[] content)
    {
        var packed = new byte[BufferBound((nuint)content.Length)];
        nuint length = 0;
        fixed (byte* input = content, output = packed)
        {
            var result = Encode(Preset, Crc64, null, input, (nuint)content.Length, output, &length, (nuint)packed.Length);
            if (result != 0) throw new InvalidOperationException($"liblzma reports error {result}");
        }

        return packed[..(int)length];
    }

    [LibraryImport("liblzma.so.5", EntryPoint = "lzma_stream_buffer_bound")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nuint BufferBound(nuint size);

    [LibraryImport("liblzma.so.5", EntryPoint = "lzma_easy_buffer_encode")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int Encode(
        uint preset,
        int check,
        void* allocator,
        byte* input,
        nuint inputSize,
        byte* output,
        nuint* outputPosition,
        nuint outputSize);
}
