using System.Runtime.CompilerServices;

namespace AmberCrate.Tests;

/// <summary>
/// Tests block threads of the pool while they wait for programs, and the server that those programs talk to answers on the
/// same pool: without threads to spare it would answer too late on a busy machine.
/// </summary>
internal static class Threads
{
    [ModuleInitializer]
    internal static void HaveSpare() => ThreadPool.SetMinThreads(64, 64);
}
