using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Configuring;

/// <summary>Tells what is set, and where that comes from.</summary>
/// <param name="session">The session.</param>
public sealed class ShowSettings(Session session)
{
    /// <summary>Does it.</summary>
    public SettingsResult Run() => new(session.Settings.Values, session.SettingsFiles);
}
