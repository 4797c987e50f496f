"""What leaves the screen for one client and comes back: handout, words to say, practice sheet, Sheet log, calendar,
reports, files for musicians and hospitals. The formats themselves live in `core.sheets` and `core.formats`."""
