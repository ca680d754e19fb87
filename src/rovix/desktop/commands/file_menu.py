"""File: projects and media in and out."""

from __future__ import annotations

from rovix.desktop.commands.command import Command, done

FILE = (
    Command("new", "New project…", "File", "Ctrl+N", lambda w: w.files.new()),
    Command("open", "Open…", "File", "Ctrl+O", lambda w: w.files.open()),
    Command("demo", "Open the demo", "File", "", lambda w: w.files.open_demo()),
    Command("import", "Import media…", "File", "Ctrl+I", lambda w: w.files.import_media(), ruled=True),
    Command("find-media", "Find missing media…", "File", "", lambda w: w.relink_missing(),
            lambda w: bool(w.missing_media())),
    Command("bring-fonts", "Bring in fonts…", "File", "", lambda w: w.files.bring_fonts()),
    Command("captions-in", "Bring in captions…", "File", "", lambda w: w.files.bring_captions(), under="Captions and timelines"),
    Command("captions-out", "Write captions…", "File", "", lambda w: w.files.write_captions(), under="Captions and timelines"),
    Command("exchange-in", "Open a timeline…", "File", "", lambda w: w.files.open_timeline(), under="Captions and timelines"),
    Command("exchange-out", "Write the timeline…", "File", "", lambda w: w.files.write_timeline(),
            under="Captions and timelines"),
    Command("left-work", "Unsaved work…", "File", "", lambda w: w.files.show_left_work()),
    Command("save", "Save", "File", "Ctrl+S", lambda w: done(w.files.save()), ruled=True),
    Command("save-as", "Save as…", "File", "Ctrl+Shift+S", lambda w: done(w.files.save_as())),
    Command("versions", "Earlier versions…", "File", "", lambda w: w.files.show_versions(),
            lambda w: w.document.path is not None),
    Command("export", "Export…", "File", "Ctrl+E", lambda w: done(w.open_export()), ruled=True),
    Command("quit", "Quit", "File", "Ctrl+Q", lambda w: done(w.close()), ruled=True),
)  # fmt: skip
