using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Values;

public sealed class ByteSizeTests
{
    [Theory]
    [InlineData("4096", 4096)]
    [InlineData("1B", 1)]
    [InlineData("500KiB", 512_000)]
    [InlineData("1.5 mib", 1_572_864)]
    [InlineData("2GiB", 2_147_483_648)]
    [InlineData("99999999999", 99_999_999_999)]
    [InlineData("0", 0)]
    [InlineData("", 0)]
    [InlineData("KiB", 0)]
    [InlineData("-5", 0)]
    [InlineData("5MB", 0)]
    [InlineData("fast", 0)]
    [InlineData("999999999999999999999GiB", 0)]
    public void Numbers_of_bytes_are_read_as_people_write_them(string text, long bytes)
    {
        ByteSize.TryParse(text, out var read).ShouldBe(bytes > 0);
        read.ShouldBe(bytes);
    }
}
