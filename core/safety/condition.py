"""What a client has that bears on the tasks, and its words."""

from enum import StrEnum

from core.reason import Reason, told_as


class Condition(StrEnum):
    """What a client has that bears on the tasks."""

    UNSAFE_SWALLOWING = "unsafe_swallowing"
    FLUID_LIMITS = "fluid_limits"
    BLOOD_PRESSURE = "blood_pressure"
    HEART_DISEASE = "heart_disease"
    ANEURYSM = "aneurysm"
    STROKE = "stroke"
    GLAUCOMA = "glaucoma"
    HERNIA = "hernia"
    PNEUMOTHORAX = "pneumothorax"
    RECENT_CHEST_SURGERY = "recent_chest_surgery"
    RECENT_ABDOMINAL_SURGERY = "recent_abdominal_surgery"
    RECENT_EYE_SURGERY = "recent_eye_surgery"
    LATE_PREGNANCY = "late_pregnancy"
    SEVERE_LUNG_DISEASE = "severe_lung_disease"
    LATEX_ALLERGY = "latex_allergy"
    UNSTABLE_NECK = "unstable_neck"
    CAROTID_DISEASE = "carotid_disease"
    RECENT_JAW_SURGERY = "recent_jaw_surgery"
    ANTICOAGULANTS = "anticoagulants"
    OSTEOPOROSIS = "osteoporosis"
    ACUTE_LARYNGITIS = "acute_laryngitis"
    DYSTONIA = "dystonia"
    TREMOR = "tremor"
    ATAXIA = "ataxia"
    PROGRESSIVE = "progressive"
    TESTOSTERONE = "testosterone"
    FOLD_LESIONS = "fold_lesions"
    FOLD_SURGERY = "fold_surgery"
    FALL_RISK = "fall_risk"
    BREATHLESS = "breathless"
    PARALYSIS = "paralysis"
    THROAT_SURGERY = "throat_surgery"
    MUSCLE_TENSION = "muscle_tension"
    SLOWED_MOVEMENT = "slowed_movement"
    MOTOR_NEURONE = "motor_neurone"
    MYASTHENIA = "myasthenia"
    MINOR = "minor"
    UNDER_TWELVE = "under_twelve"
    UNDER_SIXTEEN = "under_sixteen"
    VOICE_CHANGING = "voice_changing"
    STRAINED = "strained"
    LESIONS_STRAINED = "lesions_strained"
    COLD_UNASKED = "cold_unasked"
    FOLDS_UNRELEASED = "folds_unreleased"
    FOLDS_GENTLE = "folds_gentle"
    NO_VOICE = "no_voice"
    TRACHEOSTOMY = "tracheostomy"
    NO_LARYNX = "no_larynx"
    SWALLOWING_UNASKED = "swallowing_unasked"


IN_SPASM = frozenset({Condition.DYSTONIA, Condition.TREMOR})
"""Conditions in which an s/z ratio says nothing and holds come by choice only."""
FROM_THE_RECORD = frozenset(
    {
        Condition.MINOR,
        Condition.UNDER_TWELVE,
        Condition.UNDER_SIXTEEN,
        Condition.VOICE_CHANGING,
        Condition.STRAINED,
        Condition.LESIONS_STRAINED,
        Condition.COLD_UNASKED,
        Condition.FOLDS_UNRELEASED,
        Condition.FOLDS_GENTLE,
        Condition.NO_VOICE,
        Condition.TRACHEOSTOMY,
        Condition.NO_LARYNX,
        Condition.SWALLOWING_UNASKED,
    }
)
"""Conditions that follow from other answers; the screening does not ask for them."""


_WORDS = told_as(
    "condition",
    {
        Condition.UNSAFE_SWALLOWING: "Unsafe swallowing",
        Condition.FLUID_LIMITS: "Limits on fluids",
        Condition.BLOOD_PRESSURE: "Uncontrolled blood pressure",
        Condition.HEART_DISEASE: "Heart disease",
        Condition.ANEURYSM: "Aneurysm",
        Condition.STROKE: "Stroke",
        Condition.GLAUCOMA: "Glaucoma",
        Condition.HERNIA: "Hernia",
        Condition.PNEUMOTHORAX: "Pneumothorax",
        Condition.RECENT_CHEST_SURGERY: "Recent chest surgery",
        Condition.RECENT_ABDOMINAL_SURGERY: "Recent abdominal surgery",
        Condition.RECENT_EYE_SURGERY: "Recent eye surgery",
        Condition.LATE_PREGNANCY: "Late pregnancy",
        Condition.SEVERE_LUNG_DISEASE: "Severe lung disease",
        Condition.LATEX_ALLERGY: "Latex allergy",
        Condition.UNSTABLE_NECK: "Unstable neck",
        Condition.CAROTID_DISEASE: "Carotid disease",
        Condition.RECENT_JAW_SURGERY: "Recent jaw surgery",
        Condition.ANTICOAGULANTS: "Anticoagulants",
        Condition.OSTEOPOROSIS: "Osteoporosis",
        Condition.ACUTE_LARYNGITIS: "Acute laryngitis",
        Condition.DYSTONIA: "Dystonia of the voice",
        Condition.TREMOR: "Tremor of the voice",
        Condition.ATAXIA: "Ataxia",
        Condition.PROGRESSIVE: "Progressive condition",
        Condition.TESTOSTERONE: "On testosterone",
        Condition.FOLD_LESIONS: "Lesions of the vocal folds",
        Condition.FOLD_SURGERY: "Surgery of the vocal folds",
        Condition.FALL_RISK: "Risk of falling",
        Condition.BREATHLESS: "Breathless at rest or lying",
        Condition.PARALYSIS: "Paralysis of a vocal fold",
        Condition.THROAT_SURGERY: "Thyroid, neck or chest surgery",
        Condition.MUSCLE_TENSION: "Muscle tension of the voice",
        Condition.SLOWED_MOVEMENT: "Slowed movement (Parkinsonism)",
        Condition.MOTOR_NEURONE: "Motor neurone disease",
        Condition.MYASTHENIA: "Myasthenia",
        Condition.COLD_UNASKED: "Newly hoarse, not asked about a cold",
        Condition.FOLDS_UNRELEASED: "Vocal fold surgery, not yet released",
        Condition.FOLDS_GENTLE: "Vocal folds released for gentle voicing only",
        Condition.NO_VOICE: "No voice",
        Condition.TRACHEOSTOMY: "Tracheostomy",
        Condition.NO_LARYNX: "No larynx",
        Condition.SWALLOWING_UNASKED: "Swallowing not asked about since an injection or paralysis",
        Condition.MINOR: "Under 18 years",
        Condition.UNDER_TWELVE: "Under 12 years",
        Condition.UNDER_SIXTEEN: "Aged 12 to 15",
        Condition.VOICE_CHANGING: "Voice changing, or not asked",
        Condition.STRAINED: "Throat strain of 4 or more at the baseline",
        Condition.LESIONS_STRAINED: "Lesions of the vocal folds with throat strain of 4 or more",
    },
)


def in_plain_words(condition: Condition) -> Reason:
    """The condition as a clinician says it."""
    return _WORDS[condition]
