"""What a client has that bears on the tasks, and its words."""

from enum import StrEnum


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
    MINOR = "minor"


FROM_THE_AGE = frozenset({Condition.MINOR})
"""Conditions that follow from the record; the screening does not ask for them."""


_WORDS = {
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
    Condition.MINOR: "Under 18 years",
}


def in_plain_words(condition: Condition) -> str:
    """The condition as a clinician says it."""
    return _WORDS[condition]
