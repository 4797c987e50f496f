"""The words the oracle of proposals knows: which tasks do what, by hand, and imports nothing."""

PRESSURE = {
    *("blood_pressure", "heart_disease", "aneurysm", "stroke", "glaucoma", "hernia"),
    *("pneumothorax", "recent_chest_surgery", "recent_abdominal_surgery"),
    *("recent_eye_surgery", "late_pregnancy", "severe_lung_disease"),
}
PRESSING = {"breath_hold", "balloon", "pulses", "paired_counting", "strong_sh", "puffed_breath"}
WATER_TASKS = {"straw_water", "wide_tube_water"}
DRINKING = {"care_water", "care_mouth_clicks"}
NECK = {"shoulder_circle", "skull_base_nods", "neck_side_stretch"}
JAW = {"jaw_circles"}
LOUD = {
    *("vowel_chain", "loud_vowels", "loud_ah", "loud_glides", "counting_fours", "stretched_words"),
    *("own_phrases", "twister_lines", "answering", "map_route", "loud_reading", "loud_talk"),
    "short_day_reading",
}
SOFT_AND_CLOSED = {
    *("lip_trill", "tongue_trill", "straw_air", "straw_water", "wide_tube_water", "buzzed_oo"),
    *("cheeks_puffed", "hum", "ng", "voiced_v", "voiced_z"),
}
VOICELESS = {
    *("shoulder_circle", "skull_base_nods", "neck_side_stretch", "jaw_circles", "shoulder_rolls"),
    *("tongue_mobility", "lip_mobility", "low_breath", "paced_breath", "counted_breath"),
    *("puffed_breath", "hiss", "hiss_swell", "straw_hiss", "breath_hold", "strong_sh", "balloon"),
    "cool_down_rest",
}
SUSTAINED = {
    *("sustained_warm_up", "sustained_stretch", "sustained_contract", "sustained_power"),
    *("vowel_chain", "loud_vowels", "loud_ah"),
}
SPEAKING_ONLY = {
    *("consonant_chains", "twisters", "carry_counting", "carry_phrases", "carry_reading"),
    *("carry_questions", "carry_talk", "real_place"),
}
STRAWS = {"straw_hiss", "straw_air", "straw_water", "wide_tube_water"}
BREATHING = {
    *("low_breath", "paced_breath", "counted_breath", "puffed_breath", "hiss", "hiss_swell"),
    *("straw_hiss", "breath_hold", "strong_sh", "balloon", "palate_lift"),
}
READING = {"twister_lines", "loud_reading", "short_day_reading", "twisters", "carry_reading"}
NOSE = {
    *("hum", "ng", "hum_to_words", "ng_text", "pulses", "cool_down_glides", "warm_up_check"),
    *("find_speaking_pitch", "palate_lift"),
}
ARMS = {"shoulder_circle", "skull_base_nods", "shoulder_rolls"}
THINGS = {
    "thin_straw": {"straw_hiss", "straw_air", "straw_water"},
    "wide_tube": {"wide_tube_water"},
    "glass_of_water": WATER_TASKS,
    "mirror": {"tongue_mobility", "lip_mobility", "palate_lift"},
    "balloon": {"balloon"},
}
RIVALS = [
    {"semi_shallow", "semi_deep"},
    {"loudness_vowels", "loudness_longest"},
    {"breath_beats", "breath_counts"},
    {"range_speaking", "range_full"},
]
BY_CLEARANCE = {"noisy_breathing", "blood", "fresh_haemorrhage"}
LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
MAJOR = (0, 2, 4, 5, 7, 9, 11, 12, 14)
A_LITTLE = 1e-6
