using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>The record of an installed app as JSON, the form it has in a root's records.</summary>
public static class InstalledAppJson
{
    /// <summary>Writes a record.</summary>
    public static string Write(InstalledApp app) => JsonSerializer.Serialize(app, InstalledAppJsonContext.Default.InstalledApp);

    /// <summary>Reads a record.</summary>
    /// <exception cref="MalformedException">The text is not such a record.</exception>
    public static InstalledApp Read(string text)
    {
        try
        {
            return JsonSerializer.Deserialize(text, InstalledAppJsonContext.Default.InstalledApp)
                ?? throw new MalformedException("expected the record of an app, found null");
        }
        catch (JsonException fault)
        {
            var words = fault.InnerException is MalformedException known ? known.Message : ForeignText.Words(fault);
            throw new MalformedException($"{fault.Path}: {words}", fault);
        }
        catch (Exception fault) when (ForeignText.IsOfText(fault))
        {
            throw new MalformedException(ForeignText.Words(fault), fault);
        }
    }
}
