"""What a tube in water resists."""

import math
from dataclasses import dataclass

from core.errors import PlanError

AIR_DENSITY = 1.14
"""kg/m³, warm moist breath at 35 °C (ideal gas)."""
AIR_VISCOSITY = 1.9e-5
"""Pa·s, air at 35 °C."""
PA_A_CM_OF_WATER = 98.0665
LAMINAR_UP_TO = 2300.0


@dataclass(frozen=True, slots=True)
class BackPressure:
    """Three parts of the back pressure in cmH2O, and whether the stream is laminar."""

    hydrostatic: float
    viscous: float
    kinetic: float
    reynolds: float

    @property
    def total(self) -> float:
        return self.hydrostatic + self.viscous + self.kinetic

    @property
    def laminar(self) -> bool:
        return self.reynolds <= LAMINAR_UP_TO


def back_pressure(
    *, bore_mm: float, length_cm: float, depth_cm: float, flow_ml_s: float
) -> BackPressure:
    """Mean pressure in cmH2O a steady stream has to overcome through a straight smooth tube.

    hydrostatic: the depth of the opening, 1 cm of water = 1 cmH2O.
    viscous: Darcy–Weisbach f·(L/d)·½ρv², f = 64/Re up to Re 2300 (Hagen–Poiseuille), else
    0.316/Re^¼ (Blasius).
    kinetic: ½ρv², lost at the opening.
    Valid for a steady mean stream in bores of 2–15 mm, lengths of 3–60 cm, depths of 0–15 cm,
    20–1000 mL/s; between Re 2300 and 4000 the stream may be either and the viscous part is rough.
    Bubbles add an oscillation around this mean, which is not reckoned.
    Sources: textbook fluid mechanics; the depth as resistance and the tubes of use:
    Logoped Phoniatr Vocol 2007;32:165–170; why a semi-occlusion helps:
    J Speech Lang Hear Res 2006;49:448–459.
    Raises PlanError("tube_out_of_limits").
    """
    for name, came, low, high in (
        ("bore_mm", bore_mm, 2, 15),
        ("length_cm", length_cm, 3, 60),
        ("depth_cm", depth_cm, 0, 15),
        ("flow_ml_s", flow_ml_s, 20, 1000),
    ):
        if not (math.isfinite(came) and low <= came <= high):
            raise PlanError("tube_out_of_limits", which=name, came=came, low=low, high=high)
    bore_m, length_m, flow_m3_s = bore_mm / 1000, length_cm / 100, flow_ml_s / 1e6
    speed = flow_m3_s / (math.pi * bore_m**2 / 4)
    reynolds = AIR_DENSITY * speed * bore_m / AIR_VISCOSITY
    kinetic_pa = AIR_DENSITY * speed**2 / 2
    friction = 64 / reynolds if reynolds <= LAMINAR_UP_TO else 0.316 / reynolds**0.25
    return BackPressure(
        hydrostatic=depth_cm,
        viscous=friction * length_m / bore_m * kinetic_pa / PA_A_CM_OF_WATER,
        kinetic=kinetic_pa / PA_A_CM_OF_WATER,
        reynolds=reynolds,
    )
