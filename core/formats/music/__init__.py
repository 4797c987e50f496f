"""Patterns, tunes and hold sets as music files: MIDI and MusicXML, out and in."""
