namespace AmberCrate.Core.Searching;

/// <summary>
/// The words by which people ask for a type of file: the usual endings of its files, and what is telling in its name. The
/// endings are those of the Shared MIME-info database and of IANA's registrations.
/// </summary>
public static class FileTypes
{
    private static readonly Dictionary<string, string> Endings = Of("""
        application/epub+zip epub
        application/gpx+xml gpx
        application/x-gpx+xml gpx
        application/json json
        application/msword doc
        application/pdf pdf
        application/postscript ps eps
        application/rtf rtf
        application/vnd.amazon.ebook azw
        application/x-mobipocket-ebook mobi
        application/vnd.google-earth.kml+xml kml
        application/vnd.google-earth.kmz kmz
        application/vnd.ms-excel xls
        application/vnd.ms-powerpoint ppt
        application/vnd.ms-htmlhelp chm
        application/x-chm chm
        application/vnd.oasis.opendocument.chart odc
        application/vnd.oasis.opendocument.database odb
        application/vnd.oasis.opendocument.formula odf
        application/vnd.oasis.opendocument.graphics odg
        application/vnd.oasis.opendocument.presentation odp
        application/vnd.oasis.opendocument.spreadsheet ods
        application/vnd.oasis.opendocument.text odt
        application/vnd.openxmlformats-officedocument.presentationml.presentation pptx
        application/vnd.openxmlformats-officedocument.spreadsheetml.sheet xlsx
        application/vnd.openxmlformats-officedocument.wordprocessingml.document docx
        application/vnd.rar rar
        application/vnd.comicbook+zip cbz
        application/vnd.comicbook-rar cbr
        application/x-cbr cbr
        application/x-cbz cbz
        application/x-cb7 cb7
        application/x-cbt cbt
        application/x-7z-compressed 7z
        application/x-bittorrent torrent
        application/x-blender blend
        application/x-bzip2 bz2
        application/x-bzip bz2
        application/x-cd-image iso
        application/vnd.efi.iso iso
        application/x-iso9660-image iso
        application/x-compressed-tar tgz tar gz
        application/x-cue cue
        application/x-deb deb
        application/vnd.debian.binary-package deb
        application/x-dvi dvi
        application/x-font-ttf ttf
        application/x-font-otf otf
        application/x-font-type1 pfb
        application/x-fictionbook+xml fb2
        application/x-gzip gz
        application/gzip gz
        application/x-lha lzh
        application/x-matroska mkv
        application/x-rar rar
        application/x-rpm rpm
        application/x-sqlite3 sqlite db
        application/vnd.sqlite3 sqlite db
        application/x-subrip srt
        application/x-tar tar
        application/x-xz xz
        application/x-zip-compressed zip
        application/zip zip
        application/zstd zst
        application/dicom dicom dcm
        application/mbox mbox
        application/xml xml
        application/sql sql
        application/x-ica ica
        application/x-remmina rdp
        application/x-rdp rdp
        application/x-jupyter-notebook ipynb
        application/x-ipynb+json ipynb
        application/x-nes-rom nes
        application/x-gameboy-rom gb
        application/x-gba-rom gba
        application/x-ms-dos-executable exe
        application/x-msdos-program exe
        application/x-ms-shortcut lnk
        application/x-krita kra
        application/x-scribus sla
        application/x-xopp xopp
        application/x-kdenlive kdenlive
        application/vnd.lotus-1-2-3 123
        application/vnd.visio vsd
        application/x-dia-diagram dia
        application/x-planperfect pln
        audio/aac aac
        audio/ac3 ac3
        audio/flac flac
        audio/x-flac flac
        audio/midi mid midi
        audio/mp4 m4a
        audio/mpeg mp3
        audio/x-mp3 mp3
        audio/ogg ogg oga
        audio/x-vorbis+ogg ogg
        audio/opus opus
        audio/x-opus+ogg opus
        audio/x-aiff aiff
        audio/x-ape ape
        audio/x-m4b m4b
        audio/x-mod mod
        audio/x-mpegurl m3u
        audio/x-ms-wma wma
        audio/x-scpls pls
        audio/x-wav wav
        audio/vnd.wave wav
        audio/x-xm xm
        font/otf otf
        font/ttf ttf
        font/woff woff
        image/avif avif
        image/bmp bmp
        image/gif gif
        image/heif heif heic
        image/jpeg jpg jpeg
        image/jxl jxl
        image/openraster ora
        image/png png
        image/svg+xml svg
        image/svg+xml-compressed svgz
        image/tiff tif tiff
        image/vnd.adobe.photoshop psd
        image/x-psd psd
        image/vnd.djvu djvu
        image/vnd.djvu+multipage djvu
        image/x-djvu djvu
        image/vnd.dwg dwg
        image/vnd.dxf dxf
        image/x-dxf dxf
        image/vnd.microsoft.icon ico
        image/webp webp
        image/x-adobe-dng dng
        image/x-canon-cr2 cr2 raw
        image/x-canon-crw crw raw
        image/x-nikon-nef nef raw
        image/x-sony-arw arw raw
        image/x-panasonic-rw2 rw2 raw
        image/x-compressed-xcf xcf
        image/x-eps eps
        image/x-exr exr
        image/x-icns icns
        image/x-pcx pcx
        image/x-portable-pixmap ppm
        image/x-tga tga
        image/x-xcf xcf
        image/x-xpixmap xpm
        message/rfc822 eml
        model/3mf 3mf
        model/gltf+json gltf
        model/gltf-binary glb
        model/obj obj
        model/stl stl
        model/x.stl-ascii stl
        model/x.stl-binary stl
        application/sla stl
        text/calendar ics
        text/csv csv
        text/css css
        text/html html htm
        text/markdown md markdown
        text/plain txt
        text/tab-separated-values tsv
        text/vcard vcf
        text/x-vcard vcf
        text/vtt vtt
        text/x-bibtex bib
        text/x-c++src cpp cplusplus
        text/x-csrc c
        text/x-csharp cs csharp
        text/x-diff diff patch
        text/x-patch diff patch
        text/x-java java
        text/x-log log
        text/x-lua lua
        text/x-matlab m
        text/x-microdvd sub
        text/x-mpsub sub
        text/x-opml+xml opml
        text/x-python py python
        text/x-script.python py python
        text/x-ssa ass ssa
        text/x-subviewer sub
        text/x-tex tex latex
        text/x-vhdl vhdl
        text/x-verilog verilog
        video/3gpp 3gp
        video/mp2t ts
        video/mp4 mp4 m4v
        video/mpeg mpg mpeg
        video/ogg ogv
        video/quicktime mov
        video/webm webm
        video/x-flv flv
        video/x-matroska mkv
        video/x-ms-wmv wmv
        video/x-msvideo avi
        video/vnd.avi avi
        """);

    // What stands in the names of types and tells nothing.
    private static readonly HashSet<string> Empty = new(
        ("x vnd application audio image video text font model message xml zip json compressed file document data ms plain src "
            + "binary multipage generic octet stream mpeg scheme handler content inode directory").Split(' '),
        StringComparer.Ordinal);

    /// <summary>The words for types of file, folded, each once.</summary>
    public static string Of(IEnumerable<string> types)
    {
        var words = new HashSet<string>(StringComparer.Ordinal);
        foreach (var type in types)
        {
            if (Endings.TryGetValue(type, out var endings)) words.UnionWith(endings.Split(' '));
            else words.UnionWith(SearchText.Fold(type[(type.IndexOf('/', StringComparison.Ordinal) + 1)..]).Split(' '));
        }

        words.ExceptWith(Empty);
        return string.Join(' ', words);
    }

    private static Dictionary<string, string> Of(string table) => table.Split('\n')
        .Select(line => line.Split(' ', 2))
        .ToDictionary(line => line[0], line => line[1], StringComparer.Ordinal);
}
