using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Configuring;

/// <summary>Says what is set, and where that comes from.</summary>
/// <param name="session">The session.</param>
public sealed class ShowSettings(Session session)
{
    /// <summary>Reads every setting with its origin.</summary>
    public SettingsResult Run() => new(session.Settings.Values, session.SettingsFiles);
}
