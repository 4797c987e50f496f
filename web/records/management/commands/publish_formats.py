"""Writes the schema of a record and an example of every format, from the made-up clinic."""

import json
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from core.dose.calendar import zone_of
from core.formats.music.midi_file import to_midi
from core.formats.music.music_xml import to_music_xml
from core.formats.music.sung import can_be_music, line_of
from core.formats.program_file import data_of
from core.sheets.sample import sample_csv
from web.clients.models import Client
from web.clinic import clock
from web.papers.export.calendar import calendar_of
from web.papers.export.fhir import bundle_for
from web.programs.queries import active_version
from web.records.pack import record_schema, write_record

WHOLE, SINGS, WRITES = "Jonah Tresk", "Jory Penhale", "Maren Tidewell"
"""Whose record, program and calendar are shown; whose pattern; whose sheet."""


class Command(BaseCommand):
    help = "writes the schema of a record and an example of every format"

    def add_arguments(self, parser) -> None:
        parser.add_argument("folder", type=Path)

    def handle(self, *args, folder: Path, **options) -> None:
        now = clock.now()
        people = {one.name: one for one in Client.objects.select_related("clinic")}
        if not {WHOLE, SINGS, WRITES} <= set(people):
            raise CommandError("The made-up clinic is not loaded.")
        whole, sings = people[WHOLE], people[SINGS]
        version, sung = active_version(whole.pk), active_version(sings.pk)
        written = active_version(people[WRITES].pk)
        if version is None or sung is None or written is None:
            raise CommandError("The made-up clients have no program.")
        today = now.astimezone(zone_of(whole.time_zone)).date()
        _write(folder / "record.schema.json", record_schema())
        _write(folder / "program.json", data_of(version.program))
        bundle = bundle_for(whole, first=version.active_from, last=today, now=now)
        _write(folder / "results.fhir.json", bundle)
        (folder / "practice-log.csv").write_text(sample_csv(written.program, day=today))
        _issued, calendar = calendar_of(whole, by=None, now=now, remind_min=10)
        (folder / "home-practice.ics").write_bytes(calendar)
        line = line_of([step for step in sung.program.steps if can_be_music(step)][-1])
        (folder / "pattern.mid").write_bytes(to_midi(line))
        (folder / "pattern.musicxml").write_bytes(to_music_xml(line))
        with (folder / "record.zip").open("wb") as out:
            write_record(whole, out, now=now)
        self.stdout.write(f"Formats and examples are in {folder}.")


def _write(path: Path, data) -> None:
    path.write_text(json.dumps(data, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
