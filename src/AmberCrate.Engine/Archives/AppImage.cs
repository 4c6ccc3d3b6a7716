using System.Text;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// What it takes to keep an AppImage whole and have it start: the file as it is, and beside it a small launcher, since an
/// AppImage mounts itself, which needs FUSE, and otherwise must be asked to unpack itself at every start.
/// </summary>
internal static class AppImage
{
    /// <summary>Throws if the file is not an AppImage; the stream is at its beginning before and after.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public static void Require(Stream file)
    {
        // The AppImage specification: an ELF file with the letters AI and the type, 1 or 2, from byte 8 on.
        var head = new byte[11];
        var read = file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
        file.Position = 0;
        if (read < head.Length || !head.AsSpan().StartsWith("\u007fELF"u8) || !head.AsSpan(8, 2).SequenceEqual("AI"u8)
            || head[10] is not (1 or 2))
            throw new InvalidDataException("it is not an AppImage");
    }

    /// <summary>The launcher of an AppImage.</summary>
    /// <param name="name">The file's name, which is beside it.</param>
    public static Stream Launcher(string name) => new MemoryStream(Encoding.UTF8.GetBytes($"""
        #!/bin/sh
        # Starts the AppImage beside this file; where the machine cannot mount it, it unpacks itself for each start.
        here=$(dirname "$(readlink -f "$0")")
        if [ ! -w /dev/fuse ] || ! {"{"} command -v fusermount3 || command -v fusermount; {"}"} >/dev/null 2>&1; then
            export APPIMAGE_EXTRACT_AND_RUN=1
        fi
        exec "$here/{Quoted(name)}" "$@"

        """));

    /// <summary>A name as it stands between double quotes in a shell.</summary>
    private static string Quoted(string name) =>
        string.Concat(name.Select(letter => letter is '\\' or '"' or '$' or '`' ? $"\\{letter}" : $"{letter}"));
}
