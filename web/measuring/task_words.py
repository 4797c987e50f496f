"""Findings of bubbles, hisses, patterns, speech and breath in words for each reader."""

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.sound.finding import Finding


def task_words_for_client(finding: Finding) -> str | None:
    """Plain words with what to try; None for a finding of a held note or a glide."""
    values = finding.values
    count = int(values.get("count", 0))
    if finding.code == "other_key":
        higher = values["semitones"] > 0
        return _("Sung higher than the tone.") if higher else _("Sung lower than the tone.")
    if finding.code == "missing":
        return ngettext("One note was left out.", "Some notes were left out.", count)
    return {
        "no_bubbles": _(
            "No bubbles: check that the tube is in the water and your lips are closed."
        ),
        "bubble_stops": _("The bubbles stopped: let a little more air go."),
        "voice_stops": _("The voice went away for a moment: go lower, with a little more air."),
        "bubbling": _("The bubbles went on."),
        "uneven": _("It was uneven: let the air go evenly."),
        "even": _("Even."),
        "swell": _("It grew and faded again."),
        "only_hiss": _("No buzz was heard: let the voice come in."),
        "only_buzz": _("No hiss was heard: begin without voice."),
        "join_gap": _("There was a stop at the join: keep the air going."),
        "joined": _("Joined without a stop."),
        "added": _("There was a note too many."),
        "off_notes": _("Some notes were a little off: listen to the tone again."),
        "uneven_tempo": _("It hurried and slowed: keep the beat."),
        "in_tune": _("Every note was there."),
        "shouted": _("That was shouted: strong, without pressing."),
        "under_target": _("A little stronger: send it across the room."),
        "over_target": _("Strong enough."),
        "phrases_fade": _("The ends grew quiet: keep the last word strong."),
        "reading_rate": "",
        "off_pace": _("Not quite in time: follow the count."),
        "on_pace": _("In time."),
    }.get(finding.code)


def task_words_for_clinician(finding: Finding) -> str | None:
    """The field's terms as a pattern for the finding's values; None for other findings."""
    return {
        "no_bubbles": _("No bubbles: voice without water."),
        "bubble_stops": _("Bubbles stop %(count)d time(s), longest %(longest_s).2f s."),
        "voice_stops": _("Voice stops %(count)d time(s), longest %(longest_s).2f s."),
        "bubbling": _("%(rate_hz).1f bubbles a second."),
        "uneven": _("Uneven: level SD %(level_sd_db).1f dB."),
        "even": _("Even: level SD %(level_sd_db).1f dB."),
        "swell": _("Swell: %(rise_db).1f dB up, %(fall_db).1f dB down."),
        "only_hiss": _("Only the hiss was heard."),
        "only_buzz": _("Only the buzz was heard."),
        "join_gap": _("Silence of %(gap_s).2f s at the join."),
        "joined": _("No silence at the join."),
        "other_key": _("Sung %(semitones)+d semitones from the prescribed key."),
        "missing": _("%(count)d note(s) missing."),
        "added": _("%(count)d note(s) added."),
        "off_notes": _("%(count)d note(s) over 50 cents off, worst %(worst_cents)+.0f."),
        "uneven_tempo": _("Uneven tempo: SD %(sd_percent).0f %% from note to note."),
        "in_tune": _("All %(count)d notes within 50 cents."),
        "shouted": _("Shouting: %(percent).0f %% of the voiced time over 10 dB above the target."),
        "under_target": _("Only %(percent).0f %% of the voiced time at the target level."),
        "over_target": _("%(percent).0f %% of the voiced time at the target level."),
        "phrases_fade": _("Phrases trail off: %(trail_off_db)+.1f dB."),
        "reading_rate": _("%(words_a_minute).0f words a minute."),
        "off_pace": _("Off the pace: in %(in_s).1f s, out %(out_s).1f s."),
        "on_pace": _("On the pace: in %(in_s).1f s, out %(out_s).1f s."),
    }.get(finding.code)
