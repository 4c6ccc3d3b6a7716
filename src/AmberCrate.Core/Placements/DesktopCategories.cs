namespace AmberCrate.Core.Placements;

/// <summary>
/// The categories registered in the Desktop Menu specification, appendix A; any other must begin with <c>X-</c>.
/// </summary>
public static class DesktopCategories
{
    /// <summary>What a category must be, for messages.</summary>
    public const string Expected =
        "a category registered in the Desktop Menu specification, or one of your own that begins with X-";

    private static readonly HashSet<string> Registered = new(
        ("AudioVideo Audio Video Development Education Game Graphics Network Office Science Settings System Utility "
        + "Building Debugger IDE GUIDesigner Profiling RevisionControl Translation Calendar ContactManagement Database "
        + "Dictionary "
        + "Chart Email Finance FlowChart PDA ProjectManagement Presentation Spreadsheet WordProcessor 2DGraphics VectorGraphics "
        + "RasterGraphics 3DGraphics Scanning OCR Photography Publishing Viewer TextTools DesktopSettings HardwareSettings "
        + "Printing "
        + "PackageManager Dialup InstantMessaging Chat IRCClient Feed FileTransfer HamRadio News P2P RemoteAccess Telephony "
        + "TelephonyTools VideoConference WebBrowser WebDevelopment Midi Mixer Sequencer Tuner TV AudioVideoEditing Player "
        + "Recorder "
        + "DiscBurning ActionGame AdventureGame ArcadeGame BoardGame BlocksGame CardGame KidsGame LogicGame RolePlaying Shooter "
        + "Simulation SportsGame StrategyGame Art Construction Music Languages ArtificialIntelligence Astronomy Biology "
        + "Chemistry "
        + "ComputerScience DataVisualization Economy Electricity Geography Geology Geoscience History Humanities ImageProcessing "
        + "Literature Maps Math NumericalAnalysis MedicalSoftware Physics Robotics Spirituality Sports ParallelComputing "
        + "Amusement "
        + "Archiving Compression Electronics Emulator Engineering FileTools FileManager TerminalEmulator Filesystem Monitor "
        + "Security "
        + "Accessibility Calculator Clock TextEditor Documentation Adult Core KDE GNOME XFCE DDE GTK Qt Motif Java ConsoleOnly")
        .Split(' '),
        StringComparer.Ordinal);

    /// <summary>The registered categories.</summary>
    public static IReadOnlyCollection<string> Names => Registered;

    /// <summary>Whether the word is a category.</summary>
    public static bool IsValid(string word) =>
        Registered.Contains(word) || (word.StartsWith("X-", StringComparison.Ordinal) && word.Length is > 2 and <= 60);
}
