using AmberCrate.Bench;
using BenchmarkDotNet.Running;

return args switch
{
    ["catalogue", var folder, .. var options] => CatalogueMaker.Run(folder, options),
    ["plan", .. var options] => PlanReport.Run(options),
    ["relevance", .. var options] => RelevanceReport.Run(options),
    _ => Benchmarks(args),
};

static int Benchmarks(string[] args)
{
    BenchmarkSwitcher.FromAssembly(typeof(Program).Assembly).Run(args);
    return 0;
}
