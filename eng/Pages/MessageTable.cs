using System.Text;
using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace AmberCrate.Pages;

/// <summary>
/// Lists what the program can say to a person: problems, remarks, and reasons in plans, as they stand in the source code. Values
/// that are put in stand in braces.
/// </summary>
internal static class MessageTable
{
    private const string ProblemCodes = "ProblemCode.", Remark = "remark", PlanReason = "in a plan";
    private const string Attempt = "{what}", Content = "of a faulty file or archive";

    /// <summary>The table: code by code, each message once.</summary>
    /// <param name="repository">The working tree.</param>
    public static string Of(string repository)
    {
        var found = Directory.EnumerateFiles(Path.Combine(repository, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(file => !file.Contains("/obj/", StringComparison.Ordinal) && !file.Contains("/bin/", StringComparison.Ordinal))
            .SelectMany(file => In(CSharpSyntaxTree.ParseText(File.ReadAllText(file)).GetRoot()))
            .Distinct()
            .GroupBy(message => message.Code, message => message.Text)
            .OrderBy(group => group.Key, StringComparer.Ordinal);
        var table = new StringBuilder(
            "What acrate can say, by code. eng/pages writes this file from the source code; a test compares the two.\n"
                + "Values stand in braces. Where there are two ways to say something, | stands between them.\n");
        foreach (var group in found)
        {
            table.Append('\n').Append(group.Key).Append('\n');
            foreach (var text in group.Order(StringComparer.Ordinal)) table.Append("    ").Append(text).Append('\n');
        }

        return table.ToString();
    }

    private static IEnumerable<(string Code, string Text)> In(SyntaxNode root)
    {
        foreach (var node in root.DescendantNodes())
        {
            var message = node switch
            {
                ObjectCreationExpressionSyntax { ArgumentList.Arguments: [var first, ..] } made
                    when made.Type.ToString() is "MalformedException" or "RefusedEntryException" or "InvalidDataException" =>
                    (Content, WordsOf(first.Expression)),
                BaseObjectCreationExpressionSyntax { ArgumentList.Arguments: { Count: > 1 } arguments } => OfProblem(arguments),
                InvocationExpressionSyntax call => OfCall(call),
                _ => null,
            };
            if (message is { } known) yield return known;
        }
    }

    private static (string Code, string Text)? OfProblem(SeparatedSyntaxList<ArgumentSyntax> arguments)
    {
        var code = arguments[0].Expression.ToString();
        if (!code.StartsWith(ProblemCodes, StringComparison.Ordinal)) return null;
        var text = new StringBuilder();
        for (var at = 1; at < arguments.Count; at++)
        {
            var name = arguments[at].NameColon?.Name.ToString() ?? at switch { 1 => "what", 2 => "why", _ => "remedy" };
            var words = WordsOf(arguments[at].Expression);
            if (words.Length == 0) continue;
            text.Append(name switch { "what" => "", "why" => "\n        why: ", _ => "\n        next: " }).Append(words);
        }

        return (code[ProblemCodes.Length..], text.ToString());
    }

    private static (string Code, string Text)? OfCall(InvocationExpressionSyntax call)
    {
        var (name, arguments) = (call.Expression.ToString(), call.ArgumentList.Arguments);
        if (name is "Note" or "session.Note" or "_session.Note" && arguments.Count == 1)
            return (Remark, WordsOf(arguments[0].Expression));
        if (name == "IoProblems.ToProblem" && arguments.Count == 2) return (Attempt, WordsOf(arguments[1].Expression));
        return name == "Create" && arguments.Count == 3 && arguments[0].Expression is LiteralExpressionSyntax code
            ? (PlanReason, $"{code.Token.ValueText}: {WordsOf(arguments[2].Expression)}")
            : null;
    }

    private static string WordsOf(ExpressionSyntax expression) => expression switch
    {
        LiteralExpressionSyntax literal => literal.Token.ValueText,
        InterpolatedStringExpressionSyntax text => string.Concat(text.Contents.Select(PartOf)),
        BinaryExpressionSyntax { RawKind: (int)SyntaxKind.AddExpression } sum => WordsOf(sum.Left) + WordsOf(sum.Right),
        ConditionalExpressionSyntax choice => $"{WordsOf(choice.WhenTrue)} | {WordsOf(choice.WhenFalse)}",
        SwitchExpressionSyntax choice => string.Join(" | ", choice.Arms.Select(arm => WordsOf(arm.Expression))),
        ParenthesizedExpressionSyntax inner => WordsOf(inner.Expression),
        CastExpressionSyntax cast => WordsOf(cast.Expression),
        InvocationExpressionSyntax call when CommandOf(call) is { } command => command,
        InvocationExpressionSyntax { ArgumentList.Arguments: [var only] } call
            when call.Expression.ToString() == "Advice.Combine" => WordsOf(only.Expression),
        _ => $"{{{NameOf(expression)}}}",
    };

    private static string PartOf(InterpolatedStringContentSyntax part) => part switch
    {
        InterpolatedStringTextSyntax text => text.TextToken.ValueText,
        InterpolationSyntax hole => WordsOf(hole.Expression),
        _ => "",
    };

    private static string? CommandOf(InvocationExpressionSyntax call)
    {
        var arguments = call.ArgumentList.Arguments.Select(argument => WordsOf(argument.Expression));
        return call.Expression.ToString() switch
        {
            "NextCommand.Create" => string.Join(' ', arguments.Prepend("acrate")),
            "NextCommand.HelpOf" => $"{string.Join(' ', arguments.Prepend("acrate"))} --help",
            _ => null,
        };
    }

    /// <summary>What a value is called: the last name in an expression that says more than Text or Value.</summary>
    private static string NameOf(ExpressionSyntax expression)
    {
        var names = expression.DescendantNodesAndSelf().OfType<IdentifierNameSyntax>()
            .Select(name => name.Identifier.ValueText)
            .Where(name => name is not ("Text" or "Value" or "ToString" or "string" or "Join"))
            .ToList();
        return names.Count == 0 ? "…" : names[^1];
    }
}
