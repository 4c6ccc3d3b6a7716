using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Tests.Fuzz;

namespace AmberCrate.Engine.Tests.Archives;

/// <summary>Archives that other programs have made, with what they can do and we cannot.</summary>
[Collection(nameof(Alone))]
public sealed class ForeignArchiveTests : IDisposable
{
    private readonly UnpackingStage _stage = new();

    public void Dispose() => _stage.Dispose();

    [Theory]
    [InlineData("7z", "7z a -mm=LZMA out in")]
    [InlineData("7z", "7z a -mm=LZMA2 out in")]
    [InlineData("7z", "7z a -mm=PPMd out in")]
    [InlineData("7z", "7z a -mm=BZip2 out in")]
    [InlineData("7z", "7z a -mm=Deflate out in")]
    [InlineData("7z", "7z a -mm=Copy out in")]
    [InlineData("7z", "7z a -mhc=off out in")]
    [InlineData("7z", "7z a -ms=off -mf=BCJ2 out in")]
    [InlineData("zip", "zip -q -r out.zip in; mv out.zip out")]
    [InlineData("zip", "zip -q -r -0 out.zip in; mv out.zip out")]
    [InlineData("zip", "zip -q -fz -r out.zip in; mv out.zip out")]
    [InlineData("zip", "7z a -tzip -mm=Deflate64 out.zip in; mv out.zip out")]
    [InlineData("zip", "7z a -tzip -mm=BZip2 out.zip in; mv out.zip out")]
    [InlineData("zip", "7z a -tzip -mm=LZMA out.zip in; mv out.zip out")]
    [InlineData("zip", "7z a -tzip -mm=LZMA out.zip in/text; zip -q out.zip in/noise in/empty; mv out.zip out")]
    [InlineData("zip", "python3 -c 'import zipfile,sys\nz=zipfile.ZipFile(\"out\",\"w\",zipfile.ZIP_LZMA)\n"
            + "for n in \"text\",\"noise\",\"empty\": z.write(\"in/\"+n)\nz.close()'")]
    [InlineData("tar.bz2", "tar cf t in; split -b 5000 t p.; for one in p.*; do bzip2 -c $one; done > out")]
    [InlineData("tar.xz", "tar cf t in; split -b 5000 t p.; for one in p.*; do xz -c $one; done > out")]
    [InlineData("tar.gz", "tar cf t in; split -b 5000 t p.; for one in p.*; do gzip -c $one; done > out")]
    [InlineData("tar.zst", "tar cf t in; split -b 5000 t p.; for one in p.*; do zstd -qc $one; done > out")]
    public async Task What_others_pack_is_unpacked_byte_by_byte(string format, string pack)
    {
        await _stage.UnpackAsync(format, _stage.Made(pack), strip: 1);
        foreach (var file in new[] { "text", "noise", "empty" })
            File.ReadAllBytes(_stage["out", file]).ShouldBe(File.ReadAllBytes(_stage["work", "in", file]), file);
    }

    [Theory]
    [InlineData("7z", "7z a -psecret out in", "it is encrypted")]
    [InlineData("7z", "7z a -psecret -mhe=on out in", "it is encrypted")]
    [InlineData("7z", "7z a -mm=Deflate64 out in", "it is packed with Deflate64, which is not supported here")]
    [InlineData("zip", "7z a -tzip -psecret out.zip in; mv out.zip out", "it is encrypted")]
    [InlineData("zip", "7z a -tzip -mem=AES256 -psecret out.zip in; mv out.zip out", "it is encrypted")]
    [InlineData("zip", "7z a -tzip -mm=PPMd out.zip in; mv out.zip out", "it is packed with PPMd, which is not supported here")]
    public async Task What_cannot_be_unpacked_is_not_called_damaged(string format, string pack, string why)
    {
        var made = _stage.Made(pack);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.UnpackAsync(format, made, strip: 1));
        (refused.Problem.What, refused.Problem.Why).ShouldBe(("the archive cannot be unpacked here", why));
    }

    [Theory]
    [InlineData("7z a -mhc=off -mm=LZMA q in >/dev/null; "
            + "perl -0777 -pe 's/(\\x03\\x01\\x01\\x05.)..../$1\\x00\\x00\\x00\\x10/s' q.7z > out",
        "data that take 256 MiB of memory to unpack")]
    [InlineData("7z a -mhc=off -mm=PPMd q in >/dev/null; "
            + "perl -0777 -pe 's/(\\x03\\x04\\x01\\x05.)..../$1\\x00\\x00\\x00\\x10/s' q.7z > out",
        "data that take 256 MiB of memory to unpack")]
    [InlineData("7z a -mhc=off -mf=BCJ2 -mm=LZMA q in >/dev/null; "
            + "perl -0777 -pe 's/(\\x03\\x01\\x01\\x05.)..../$1\\x00\\x00\\x40\\x06/sg' q.7z > out",
        "of memory to unpack")]
    public async Task What_takes_too_much_memory_to_unpack_is_refused(string pack, string why)
    {
        var made = _stage.Made(pack);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.UnpackAsync("7z", made, strip: 1));
        refused.Problem.Why.ShouldContain(why);
    }

    [Theory]
    [InlineData("gz", "gzip -c in/tool > out")]
    [InlineData("zst", "zstd -qc in/tool > out")]
    [InlineData("xz", "xz -c in/tool > out")]
    [InlineData("bz2", "bzip2 -c in/tool > out")]
    public async Task A_program_that_others_have_compressed_is_unpacked_and_made_executable(string format, string pack)
    {
        await _stage.UnpackAsync(format, _stage.Made($"(echo '#!/bin/sh'; cat in/text) > in/tool; {pack}"), 0);
        File.ReadAllBytes(_stage["out", "artifact"]).ShouldBe(File.ReadAllBytes(_stage["work", "in", "tool"]));
        File.GetUnixFileMode(_stage["out", "artifact"]).ShouldBe((UnixFileMode)0x1ED);
    }

    [Theory]
    [InlineData("gz", "gzip -c in/text > out", "what is compressed in it is neither an ELF file nor a script")]
    [InlineData("gz", "tar cz in > out", "what is compressed in it is neither an ELF file nor a script")]
    [InlineData("xz", "printf '' | xz -c > out", "what is compressed in it is neither an ELF file nor a script")]
    [InlineData("zst", "(echo '#!/bin/sh'; cat in/noise) | zstd -qc | head -c 900 > out", null)]
    [InlineData("zip", "7z a -tzip -mm=LZMA q.zip in; "
            + "perl -0777 -pe 's/(PK\\001\\002.{20}).(?=...)/$1\\007/sg' q.zip > out", null)]
    [InlineData("zip", "zip -q -0 -r q.zip in; perl -0777 -pe 's/prompt book/prompt hook/' q.zip > out",
        "an entry's checksum (CRC-32) is wrong")]
    [InlineData("zip", "7z a -tzip -mm=BZip2 q.zip in; perl -0777 -pe 's/(PK\\003\\004)/PK--/sg' q.zip > out", null)]
    public async Task A_damaged_one_is_called_damaged(string format, string pack, string? why)
    {
        var made = _stage.Made(pack);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.UnpackAsync(format, made, 0));
        refused.Problem.What.ShouldBe("the archive is damaged");
        if (why is not null) refused.Problem.Why.ShouldBe(why);
    }

    [Theory]
    [InlineData("UTC")]
    [InlineData("Asia/Tokyo")]
    public async Task The_times_of_a_zip_are_those_of_its_files_wherever_the_machine_stands(string zone)
    {
        Environment.SetEnvironmentVariable("TZ", zone);
        TimeZoneInfo.ClearCachedData();
        try
        {
            await _stage.UnpackAsync("zip", _stage
                .Made("touch -d 2020-02-02T02:02:03Z in/text; zip -q -r out.zip in; mv out.zip out"), 1);
            File.GetLastWriteTimeUtc(_stage["out", "text"]).ShouldBe(new DateTime(2020, 2, 2, 2, 2, 3, DateTimeKind.Utc));
        }
        finally
        {
            Environment.SetEnvironmentVariable("TZ", null);
            TimeZoneInfo.ClearCachedData();
        }
    }

    [Fact]
    public async Task A_file_that_comes_once_more_as_a_link_to_itself_is_taken_as_tar_takes_it()
    {
        await _stage.UnpackAsync("tar.gz", _stage.Made("ln in/text in/again; tar czf out in/text in/text in/again"), 1);
        File.ReadAllBytes(_stage["out", "again"]).ShouldBe(File.ReadAllBytes(_stage["work", "in", "text"]));
    }

    public static TheoryData<string, string> Hostile => new()
    {
        { "7z", "printf '7z\\274\\257\\047\\034\\000\\004\\000\\000\\000\\000\\000\\000\\000\\000"
            + "\\000\\000\\000\\000\\012\\000\\000\\000"
            + "\\000\\000\\000\\000\\000\\000\\000\\000\\001\\005\\360\\377\\377\\377\\177\\000\\000\\000' > out" },
        { "7z", "7z a -mhc=off -mm=PPMd q in >/dev/null; "
            + "perl -0777 -pe 's/\\x03\\x04\\x01\\x05./\\x03\\x04\\x01\\x05\\x00/s' q.7z > out" },
        { "7z", "7z a -mhc=off -mm=PPMd q in >/dev/null; "
            + "perl -0777 -pe 's/(\\x03\\x04\\x01\\x05.)..../$1\\x00\\x00\\x00\\x00/s' q.7z > out" },
        { "tar.bz2", "printf '' | bzip2 -c > e; for one in 1 2 3 4 5 6 7 8; do cat e e > f; mv f e; done; cat e e e > out" },
        { "zip", "printf 'PK\\005\\006\\000\\000\\000\\000\\377\\376\\377\\376"
            + "\\377\\377\\000\\000\\000\\000\\000\\000\\000\\000' > out" },
    };

    [Theory]
    [MemberData(nameof(Hostile))]
    public async Task What_a_header_claims_is_not_believed(string format, string make)
    {
        var bytes = _stage.Made(make);
        var (begun, before) = (Stopwatch.GetTimestamp(), GC.GetTotalAllocatedBytes());
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.UnpackAsync(format, bytes, 0));
        refused.Problem.Code.ShouldBe(ProblemCode.NotVerified);
        Stopwatch.GetElapsedTime(begun).ShouldBeLessThan(TimeSpan.FromSeconds(60));
        (GC.GetTotalAllocatedBytes() - before).ShouldBeLessThan(1L << 29);
    }
}
