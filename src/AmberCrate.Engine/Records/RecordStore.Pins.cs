using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Records;

/// <content>The pins.</content>
public sealed partial class RecordStore
{
    /// <summary>All pins, ordered by the ids of their apps.</summary>
    /// <exception cref="ProblemException">One cannot be read.</exception>
    public IReadOnlyList<Pin> Pins() =>
        _database.Query("SELECT app, pin FROM pins ORDER BY app", row => ReadPin(row.Text(0), row.Text(1)));

    /// <summary>Sets a pin, and replaces the app's earlier one.</summary>
    public void SetPin(Pin pin) =>
        _database.Run("INSERT OR REPLACE INTO pins(app, pin) VALUES($1, $2)", pin.App.Text, PinJson.Write(pin));

    /// <summary>Lifts a pin; false where the app has none.</summary>
    public bool LiftPin(AppId app) => _database.Run("DELETE FROM pins WHERE app = $1", app.Text) > 0;

    private static Pin ReadPin(string app, string text)
    {
        try
        {
            return PinJson.Read(text);
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"the pin of {app} cannot be read", fault);
        }
    }
}
