
namespace AmberCrate.Playhouse;

/// <summary>
/// The demo: <c>morning STAGE ACRATE [--shell]</c> plays it, <c>make FOLDER</c> only makes the catalogues, <c>serve FOLDER</c>
/// serves one.
/// </summary>
public static class Program
{
    public static async Task<int> Main(string[] arguments)
    {
        switch (arguments)
        {
            case ["morning", var stage, var acrate, .. var rest]:
                return await new Morning(Path.GetFullPath(stage), Path.GetFullPath(acrate)).PlayAsync(rest.Contains("--shell"))
                    ? 0
                    : 1;
            case ["make", var folder, .. var rest]:
                World.Shipped.Write("house", Path.Combine(folder, "house"), withLater: true);
                World.Shipped.Write("guild", Path.Combine(folder, "guild"), rest.Contains("--later"));
                return 0;
            case ["serve", var folder, .. var rest]:
                var roundTrip = rest is ["--round-trip", var milliseconds]
                    ? TimeSpan.FromMilliseconds(int.Parse(milliseconds, System.Globalization.CultureInfo.InvariantCulture))
                    : default;
                await using (var server = await StaticServer.StartAsync(folder, roundTrip))
                {
                    Console.WriteLine(server.Address);
                    await server.WaitForStopAsync();
                }

                return 0;
            default:
                Console.Error.WriteLine(
                    "morning STAGE ACRATE [--shell] | make FOLDER [--later] | serve FOLDER [--round-trip MS]");
                return 2;
        }
    }
}
