namespace AmberCrate.SampleCatalogue;

/// <summary>One purpose that apps may have, with the words that belong to it.</summary>
/// <param name="Verb">What a person does with such an app.</param>
/// <param name="Nouns">Words of which such an app's name is made.</param>
/// <param name="Keywords">Words by which people look for it.</param>
/// <param name="Categories">Its categories of the Desktop Menu specification.</param>
internal sealed record Craft(string Verb, string[] Nouns, string[] Keywords, string[] Categories)
{
    /// <summary>All crafts of the made-up world.</summary>
    public static IReadOnlyList<Craft> All { get; } =
    [
        new("paint", ["Paint", "Brush", "Wash", "Palette"], ["brushwork", "tint", "primer"], ["Graphics", "RasterGraphics"]),
        new("draw", ["Draft", "Stencil", "Outline", "Plot"], ["sketch", "ruler", "scale"], ["Graphics", "VectorGraphics"]),
        new("model", ["Maquette", "Mould", "Carve", "Form"], ["maquette", "mesh", "solid"], ["Graphics", "3DGraphics"]),
        new(
            "photograph", ["Lens", "Plate", "Still", "Contact"], ["snapshot", "exposure", "retouch"],
            ["Graphics", "Photography"]),
        new("scan", ["Scan", "Trace", "Facsimile", "Copy"], ["scanner", "paper", "archive"], ["Graphics", "Scanning"]),
        new("record", ["Tape", "Take", "Booth", "Reel"], ["microphone", "take", "loudness"], ["AudioVideo", "Audio", "Recorder"]),
        new("mix", ["Mix", "Fader", "Bus", "Gain"], ["fader", "channel", "equaliser"], ["AudioVideo", "Audio", "Mixer"]),
        new(
            "play back", ["Playback", "Thunder", "Chime", "Needle"], ["player", "soundtrack", "loop"],
            ["AudioVideo", "Audio", "Player"]),
        new(
            "cut", ["Splice", "Cutting", "Montage", "Frame"], ["footage", "clip", "timeline"],
            ["AudioVideo", "Video", "AudioVideoEditing"]),
        new("compose", ["Score", "Stave", "Measure", "Motif"], ["notation", "melody", "chord"], ["AudioVideo", "Audio", "Music"]),
        new("browse", ["Window", "Wander", "Visit", "Signpost"], ["web", "page", "tabs"], ["Network", "WebBrowser"]),
        new("mail", ["Post", "Letter", "Envelope", "Courier"], ["inbox", "message", "newsletter"], ["Network", "Email"]),
        new("chat", ["Parley", "Murmur", "Intercom", "Callboard"], ["talk", "headset", "channel"], ["Network", "Chat"]),
        new("carry", ["Carry", "Porter", "Trapdoor", "Haul"], ["transfer", "send", "mirror"], ["Network", "FileTransfer"]),
        new(
            "call", ["Videocall", "Looking", "Faces", "Meeting"], ["meeting", "camera", "conference"],
            ["Network", "VideoConference"]),
        new(
            "write", ["Quill", "Manuscript", "Margin", "Page"], ["letter", "manuscript", "paragraph"],
            ["Office", "WordProcessor"]),
        new("reckon", ["Reckon", "Abacus", "Sum", "Tally"], ["formula", "cells", "totals"], ["Office", "Spreadsheet"]),
        new(
            "present", ["Slide", "Lectern", "Projector", "Showing"], ["talk", "projector", "handout"],
            ["Office", "Presentation"]),
        new("schedule", ["Rota", "Almanac", "Season", "Diary"], ["rota", "shift", "agenda"], ["Office", "Calendar"]),
        new(
            "plan", ["Plan", "Milestone", "Call", "Tracks"], ["milestone", "deadline", "workload"],
            ["Office", "ProjectManagement"]),
        new("account for", ["Ledger", "Purse", "Till", "Balance"], ["bookkeeping", "invoice", "budget"], ["Office", "Finance"]),
        new(
            "address", ["Rollcall", "Contactbook", "Cast", "Directory"], ["contacts", "phone", "people"],
            ["Office", "ContactManagement"]),
        new("catalogue", ["Index", "Inventory", "Register", "Shelf"], ["inventory", "barcode", "stock"], ["Office", "Database"]),
        new(
            "lay out", ["Playbill", "Broadsheet", "Poster", "Type"], ["poster", "leaflet", "typesetting"],
            ["Office", "Publishing"]),
        new("read", ["Reader", "Folio", "Leaf", "Spine"], ["ebook", "bookmark", "annotate"], ["Office", "Viewer"]),
        new(
            "translate", ["Gloss", "Tongue", "Phrase", "Surtitle"], ["language", "glossary", "surtitles"],
            ["Office", "Translation"]),
        new("light", ["Dimmer", "Lantern", "Gel", "Cue"], ["lighting", "lamp", "cue"], ["Engineering", "Electronics"]),
        new("rig", ["Gantry", "Batten", "Flyrope", "Truss"], ["rigging", "load", "winch"], ["Engineering", "Construction"]),
        new(
            "measure", ["Gauge", "Plumb", "Spirit", "Caliper"], ["sensor", "logging", "reading"],
            ["Science", "DataVisualization"]),
        new("program", ["Loom", "Bobbin", "Shuttle", "Warp"], ["code", "debugger", "compiler"], ["Development", "IDE"]),
        new(
            "compare", ["Differ", "Twin", "Proof", "Collate"], ["difference", "merge", "revision"],
            ["Development", "RevisionControl"]),
        new("query", ["Question", "Ledgerline", "Well", "Rowan"], ["query", "table", "schema"], ["Development", "Database"]),
        new(
            "type", ["Console", "Prompt", "Terminal", "Line"], ["shell", "commandline", "session"],
            ["System", "TerminalEmulator"]),
        new("watch over", ["Watch", "Steward", "Usher", "Bell"], ["monitoring", "alarm", "uptime"], ["System", "Monitor"]),
        new("back up", ["Strongroom", "Vault", "Spare", "Keepsake"], ["backup", "restore", "snapshot"], ["Utility", "Archiving"]),
        new("note", ["Note", "Slip", "Jotter", "Scrap"], ["notebook", "memo", "checklist"], ["Utility", "TextEditor"]),
        new("convert", ["Turn", "Recast", "Change", "Transpose"], ["convert", "batch", "format"], ["Utility", "FileTools"]),
        new("print", ["Label", "Badge", "Ticket", "Stub"], ["printer", "label", "sticker"], ["Utility", "Printing"]),
        new("teach", ["Primer", "Rehearse", "Lesson", "Slate"], ["lesson", "exercise", "quiz"], ["Education", "Languages"]),
        new("puzzle over", ["Riddle", "Charade", "Tableau", "Interval"], ["puzzle", "board", "cards"], ["Game", "LogicGame"]),
    ];
}
