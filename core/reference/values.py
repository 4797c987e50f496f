"""The one table of reference values and thresholds. They inform; they never decide alone."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Reference:
    """A number with its unit, where it comes from and whom it describes."""

    number: float
    unit: str
    source: str
    population: str = ""


CLINICAL_DEFAULT = "clinical default, to be changed per clinic and client"
MEASURING = "limit of this product's measuring"

CONCERT_A4 = Reference(440.0, "Hz", "ISO 16:1975")
A4_LOWEST = Reference(415.0, "Hz", MEASURING, "the historical low pitch")
A4_HIGHEST = Reference(466.0, "Hz", MEASURING, "the historical high pitch")
LOWEST_PITCH = Reference(60.0, "Hz", MEASURING)
HIGHEST_PITCH = Reference(1000.0, "Hz", MEASURING)
HIGHEST_NOTE = Reference(2100.0, "Hz", CLINICAL_DEFAULT, "C7; above B5 nothing is measured")

SHORT_PHONATION = Reference(
    10.0, "s", "Clinical Examination of Voice, Springer 1981", "adults, not children"
)
TYPICAL_PHONATION_MEN = Reference(
    30.0, "s", "J Speech Hear Disord 1987;52:367–387 (review)", "adult men, 25–35 s, large spread"
)
TYPICAL_PHONATION_WOMEN = Reference(
    20.0, "s", "J Speech Hear Disord 1987;52:367–387 (review)", "adult women, 15–25 s, large spread"
)
SZ_RATIO_FLAG = Reference(
    1.4, "ratio", "J Speech Hear Disord 1981;46:147–149", "says nothing when both are short"
)
SHORT_S = Reference(10.0, "s", CLINICAL_DEFAULT, "below it the s/z ratio is not judged")
AIRFLOW_GOAL = Reference(80.0, "mL/s", "J Voice 1994;8:271–278")
PHONATION_QUOTIENT_LOW = Reference(120.0, "mL/s", "Clinical Examination of Voice, Springer 1981")
PHONATION_QUOTIENT_HIGH = Reference(190.0, "mL/s", "Clinical Examination of Voice, Springer 1981")
VITAL_CAPACITY_SOURCE = "Medicine 1948;27:243–278"
MICROPHONE_DISTANCE = Reference(30.0, "cm", "Am J Speech Lang Pathol 2018;27:887–905")
NOISE_UNDER_VOICE = Reference(10.0, "dB", "Am J Speech Lang Pathol 2018;27:887–905")
SMALLEST_REAL_CHANGE = Reference(
    1.96 * 2**0.5, "× SD of the client's own attempts", "J Strength Cond Res 2005;19:231–240"
)
TRIES_FREEDOM = Reference(
    2, "tries beyond the first of each baseline", CLINICAL_DEFAULT, "fewer tell no spread"
)

EXAMINE_HOARSE_AFTER = Reference(2.0, "weeks", CLINICAL_DEFAULT, "guidelines say up to 4")
NEWLY_HOARSE_UNDER = Reference(3.0, "weeks", CLINICAL_DEFAULT, "with a cold: acute laryngitis")
CLEAR_AGAIN_DAYS = Reference(
    2.0, "days", CLINICAL_DEFAULT, "clear for so long: a short trouble counts as none"
)
LARYNGITIS_EXAMINE_AFTER = Reference(
    14.0, "days after it began", CLINICAL_DEFAULT, "the voice not back: examine"
)
THROAT_HEALS_DAYS = Reference(
    42.0, "days", CLINICAL_DEFAULT, "6 weeks after surgery of thyroid, neck or chest"
)
STRONG_FROM_AGE = Reference(12.0, "years", CLINICAL_DEFAULT, "younger: strong voice with a reason")
OWN_MINUTES_FROM_AGE = Reference(
    16.0, "years", CLINICAL_DEFAULT, "minutes as the clinician chooses"
)
VOICE_CHANGES_FROM_AGE = Reference(10.0, "years", CLINICAL_DEFAULT, "asked from here to 17")
PROGRESSIVE_WEEKS = Reference(4.0, "weeks", CLINICAL_DEFAULT, "intensive, progressive condition")
REFRESHER_WEEKS = Reference(
    2.0, "weeks", CLINICAL_DEFAULT, "after a re-measurement, progressive condition"
)
FOR_GOOD_SESSIONS = Reference(2, "sessions a day", CLINICAL_DEFAULT, "for good, two or three short")
FOR_GOOD_MINUTES = Reference(15.0, "min a day", CLINICAL_DEFAULT, "for good, progressive condition")
PROGRESSIVE_STEPS = Reference(6, "voiced steps a home session", CLINICAL_DEFAULT, "progressive")
FOLDS_SAFE_KEYS = Reference(12, "keys", CLINICAL_DEFAULT, "fold lesions with strain of 4 or more")
DOWNWARD_MARGIN = Reference(
    3.0, "semitones over the lowest comfortable note", CLINICAL_DEFAULT, "target pitch downward"
)
FOLDS_HEAL_DAYS = Reference(
    84.0, "days", CLINICAL_DEFAULT, "12 weeks after surgery of the folds, or the surgeon's date"
)
BOTULINUM_DAYS = Reference(
    14.0, "days", CLINICAL_DEFAULT, "no water task and no sip after an injection"
)
BREATHLESS_SHARE = Reference(
    0.8, "× best “ah”", CLINICAL_DEFAULT, "first holds and glides of who is breathless"
)
EXAMINATION_FRESH = Reference(
    182.0, "days", CLINICAL_DEFAULT, "6 months; at a first activation and after a new red flag"
)
ASK_AGAIN_AFTER = Reference(182.0, "days", CLINICAL_DEFAULT, "screening older than 6 months")

MARGIN = Reference(2.0, "semitones", CLINICAL_DEFAULT)
FIRST_RUNG_SHARE = Reference(0.8, "× median probe", CLINICAL_DEFAULT)
RUNG_STEP = Reference(1.15, "× per rung", CLINICAL_DEFAULT)
RUNG_GRID = Reference(0.5, "s", CLINICAL_DEFAULT)
HOLD_SHORTEST = Reference(0.5, "s", CLINICAL_DEFAULT)
HOLD_LONGEST = Reference(90.0, "s", CLINICAL_DEFAULT)
SHEET_ODD = Reference(
    2.0,
    "times what is asked",
    CLINICAL_DEFAULT,
    "a number on a paper sheet that is longer is asked about",
)
GLIDE_SECONDS = Reference(8.0, "s", CLINICAL_DEFAULT)
TONE_AND_BREATH_SECONDS = Reference(6.0, "s", CLINICAL_DEFAULT)
STEP_READING_SECONDS = Reference(
    15.0, "s", CLINICAL_DEFAULT, "a client reads a step before doing it"
)
LEAD_IN_SECONDS = Reference(3.0, "s", CLINICAL_DEFAULT, "from pressing start to the attempt")

SESSIONS_LOOKED_AT = Reference(5, "home sessions", CLINICAL_DEFAULT)
SESSIONS_TO_CLIMB = Reference(4, "home sessions", CLINICAL_DEFAULT)
DAYS_LOOKED_OVER = Reference(3, "days", CLINICAL_DEFAULT)
DAYS_BETWEEN_CLIMBS = Reference(7, "days", CLINICAL_DEFAULT)
KEPT_TO_CLIMB = Reference(0.5, "share of prescribed sessions in 7 days", CLINICAL_DEFAULT)
NOTES_AT_TARGET = Reference(0.8, "share of the set, rounded up", CLINICAL_DEFAULT)
HOLD_PITCH_SD = Reference(0.5, "semitones", CLINICAL_DEFAULT)
HOLD_TRAIL_OFF = Reference(4.0, "dB", CLINICAL_DEFAULT)
HOLD_LEVEL_OVER_PROBE = Reference(2.0, "dB", CLINICAL_DEFAULT)
STRAIN_RISE = Reference(2.0, "points of 10 over the usual", CLINICAL_DEFAULT)
STRAIN_DAYS = Reference(14, "days looked back over", CLINICAL_DEFAULT)
STRAIN_ANSWERS = Reference(5, "answers that tell the usual", CLINICAL_DEFAULT, "else the baseline")
EFFORT_LOW = Reference(7, "of 10", CLINICAL_DEFAULT, "strong voice under it: give the cue again")
STRAIN_HIGH = Reference(4, "of 10", CLINICAL_DEFAULT, "no voiced step climbs from here on")
PAIN_STOPS = Reference(
    3, "of 10", CLINICAL_DEFAULT, "a stop sign; less that goes on letting go: not today"
)
TIRED_SHORT = Reference(7, "of 10", CLINICAL_DEFAULT, "from here on the short version is offered")
STRAIN_OVER_BASELINE = Reference(1, "points over the baseline", CLINICAL_DEFAULT, "more: no climb")
STRAIN_CONTACT = Reference(5, "of 10", CLINICAL_DEFAULT, "on two days, families C and E once")
STRAIN_SESSIONS_SINCE = Reference(5, "home sessions at the usual", CLINICAL_DEFAULT)
TREMOR_OVER_OWN = Reference(1.1, "× the client's own pitch SD", CLINICAL_DEFAULT, "with tremor")
SESSIONS_COMPARED = Reference(5, "session bests, against as many before", CLINICAL_DEFAULT)
SPREAD_FROM = Reference(3, "session bests at one rung", CLINICAL_DEFAULT)
BEYOND_SPREAD = Reference(
    2 * 2**0.5, "× SD of the session bests at one rung", CLINICAL_DEFAULT, "more is a real change"
)
TREND_SESSIONS = Reference(8, "home sessions", CLINICAL_DEFAULT, "fewer tell no trend")
TREND_CONFIDENCE = Reference(
    0.999, "confidence of the interval", "J Am Stat Assoc 1968;63:1379–1389", "looked at weekly"
)
OUTLIER_SPREADS = Reference(
    3.5, "× robust SD from the line", CLINICAL_DEFAULT, "shown, not dropped"
)
LAPSED_AFTER = Reference(7, "days", CLINICAL_DEFAULT)
PLATEAU_AFTER = Reference(21, "days", CLINICAL_DEFAULT)
OVER_KEEN = Reference(1.4, "× the prescribed sessions", CLINICAL_DEFAULT)

MUCH_TALKING = Reference(4.0, "hours a day", CLINICAL_DEFAULT, "resets through the day")
EVENT_NEAR = Reference(7, "days", CLINICAL_DEFAULT, "nothing climbs before an event")
STEPS_TO_REMEMBER = Reference(3, "steps", CLINICAL_DEFAULT, "weak memory")
YOUNGEST_CLIENT = Reference(5, "years", CLINICAL_DEFAULT, "no program is proposed below")
OLDEST_CLIENT = Reference(100, "years", CLINICAL_DEFAULT, "no program is proposed above")
LONGEST_HISS = Reference(60.0, "s", CLINICAL_DEFAULT)
HISS_OVER_OWN_BEST = Reference(1.1, "× the client's own longest /s/", CLINICAL_DEFAULT)
CAUTIOUS_OUT = Reference(4.0, "s", CLINICAL_DEFAULT, "air out, where no longest /s/ is known")
BREATH_HOLD_CAP = Reference(15.0, "s", CLINICAL_DEFAULT, "little is gained by longer ones")
DEPTH_AT_HOME_TENSION = Reference(
    3.0, "cm", CLINICAL_DEFAULT, "tension; tubes of 1–2 cm: Logoped Phoniatr Vocol 2007;32:165–170"
)
DEPTH_AT_HOME_INSUFFICIENCY = Reference(
    5.0, "cm", CLINICAL_DEFAULT, "insufficiency; 5–15 cm: Logoped Phoniatr Vocol 2007;32:165–170"
)
DEEP_WATER = Reference(5.0, "cm", CLINICAL_DEFAULT, "from here on some conditions forbid it")
MINUTES_A_SESSION = Reference(20.0, "min", CLINICAL_DEFAULT, "where client and clinic set none")
MINUTES_A_WEEK = Reference(300.0, "min", CLINICAL_DEFAULT, "where client and clinic set none")
VOICED_MINUTES_A_WEEK = Reference(90.0, "min", CLINICAL_DEFAULT, "voiced, in home sessions")
WARM_UP_MINUTES = Reference(20.0, "min", CLINICAL_DEFAULT, "15–30; over 45 is too much")
WARM_UP_LONGEST = Reference(45.0, "min", CLINICAL_DEFAULT)
AIRFLOW_ASSUMED = Reference(
    150.0,
    "mL/s",
    "middle of the typical phonation quotient, Clinical Examination of Voice, Springer 1981",
)
LEVEL_CLIMB = Reference(2.0, "dB", CLINICAL_DEFAULT)
TUBE_SHALLOWEST = Reference(1.0, "cm", CLINICAL_DEFAULT, "a tube in water is eased no further")
TUBE_DEPTH_EASED = Reference(1.0, "cm", CLINICAL_DEFAULT)
TUBE_BORE_EASED = Reference(2.0, "mm", CLINICAL_DEFAULT)
LEVEL_FIRST = Reference(3.0, "dB over the client's own conversation", CLINICAL_DEFAULT)
STRONG_UNDER_SHOWN = Reference(2.0, "dB under the strong “ah” of the baseline", CLINICAL_DEFAULT)
READING_RATE_ASSUMED = Reference(150.0, "words a minute", CLINICAL_DEFAULT, "until it was measured")
UNDER_TRANSITION = Reference(
    1.0, "semitones", CLINICAL_DEFAULT, "first rung of speaking-voice patterns"
)
SEMI_OCCLUDED_SHORTEST = Reference(2.0, "min a home session", CLINICAL_DEFAULT)
SEMI_OCCLUDED_LONGEST = Reference(5.0, "min a home session", CLINICAL_DEFAULT)
STRAIN_TO_THINK_ABOUT = Reference(5, "of 10", CLINICAL_DEFAULT, "throat strain at the baseline")
DAYS_AWAY_EASE = Reference(7, "days away: one rung down", CLINICAL_DEFAULT)
DAYS_AWAY_PROBE = Reference(14, "days away: probe again", CLINICAL_DEFAULT)
PITCH_REVIEW_AFTER = Reference(3, "semitones", CLINICAL_DEFAULT, "gender-affirming work")

BUBBLE_STOP = Reference(0.25, "s", CLINICAL_DEFAULT, "a shorter pause is an uneven bubble")
PHRASE_NEAR = Reference(
    1.0, "semitones from the note", CLINICAL_DEFAULT, "commonest pitch of a phrase"
)
PHRASES_NEAR_SHARE = Reference(80.0, "% of phrases", CLINICAL_DEFAULT)
PHRASE_PAUSE = Reference(0.25, "s", MEASURING, "a shorter silence is inside a phrase")
SHOUT_OVER_TARGET = Reference(10.0, "dB over the target", CLINICAL_DEFAULT)
STRONG_ENOUGH = Reference(0.5, "dB under the target of a strong hold", CLINICAL_DEFAULT)
FASTEST_READING = Reference(300.0, "words a minute", MEASURING, "faster: the reading stopped")
HISS_LEVEL_SD = Reference(2.0, "dB", CLINICAL_DEFAULT)
SWELL_LEAST = Reference(4.0, "dB up and down", CLINICAL_DEFAULT)
BROKEN_OFF_UNDER = Reference(
    0.5, "share of the target time", CLINICAL_DEFAULT, "nothing is praised"
)
A_LITTLE_OFF = Reference(75.0, "cents from the note", CLINICAL_DEFAULT, "said as a little off")
A_HALF_STEP_OFF = Reference(
    150.0, "cents from the note", CLINICAL_DEFAULT, "said as a half step off"
)
GLIDE_END_REACHED = Reference(1.0, "semitone from the prescribed end", CLINICAL_DEFAULT)
BREATH_WITHIN_BEATS = Reference(1.0, "beat from the end of a breath out", CLINICAL_DEFAULT)
PATTERN_NOTE_OFF = Reference(50.0, "cents", CLINICAL_DEFAULT)
PATTERN_TEMPO_SD = Reference(15.0, "% of the time from note to note", CLINICAL_DEFAULT)
SPEECH_OVER_TARGET = Reference(0.7, "share of the voiced time", CLINICAL_DEFAULT)
SPEECH_TRAIL_OFF = Reference(3.0, "dB", CLINICAL_DEFAULT)
NEAREST_MICROPHONE = Reference(5.0, "cm", MEASURING)
FARTHEST_MICROPHONE = Reference(100.0, "cm", MEASURING, "beyond it the room decides the level")
METER_LOWEST = Reference(30.0, "dB", MEASURING)
METER_HIGHEST = Reference(120.0, "dB", MEASURING)
NARROW_RANGE = Reference(
    12, "semitones of comfortable range", CLINICAL_DEFAULT, "fewer speak for range"
)
MORNING_ENDS = Reference(12, "h, local", CLINICAL_DEFAULT, "sittings of the morning begin before")
EVENING_BEGINS = Reference(
    17, "h, local", CLINICAL_DEFAULT, "sittings of the evening begin from here"
)
