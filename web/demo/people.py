"""The made-up clients of Harrow Quay. Every name is invented."""

from dataclasses import dataclass

from core.simulate.history import Course


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """One demo client: seconds in s, notes by name, `weeks` of practice so far (0 = none)."""

    name: str
    age: int
    group: str
    occupation: str
    referral: str
    low: str
    high: str
    transition: str = ""
    speaking: str = ""
    phonation: tuple[float, ...]
    s: float
    z: float
    probes: tuple[float, float, float]
    course: Course
    weeks: int
    gain: float = 0.5
    keeps: float = 0.85
    strain: float = 2.0
    examined: bool = True
    height: float | None = None
    lungs: str = ""
    hers: bool = True


C = Course
PEOPLE = (
    Person(name="Maren Tidewell", age=52, group="women", occupation="School cook", referral="Weak voice, small gap", low="G3", high="G4", speaking="A3", phonation=(9.4, 8.8, 8.1), s=17.6, z=11.0, probes=(8.2, 8.4, 7.0), course=C.IMPROVING, weeks=2, gain=1.0, keeps=0.9, height=165, lungs="female"),
    Person(name="Osric Fendt", age=44, group="men", occupation="Deck announcer", referral="Tires after the evening ferry", low="E2", high="E4", transition="C4", speaking="B2", phonation=(16.0, 15.1, 14.2), s=21.0, z=18.5, probes=(11.5, 12.0, 9.5), course=C.STOPPED, weeks=3, strain=2.5, height=181, lungs="male"),
    Person(name="Bryony Sallow", age=37, group="women", occupation="Fish-auction caller", referral="Hoarse for five weeks", low="F3", high="C5", phonation=(11.0, 10.4, 9.9), s=15.0, z=9.6, probes=(8.0, 7.5, 6.0), course=C.NEW, weeks=0, examined=False),
    Person(name="Tobin Marl", age=61, group="men", occupation="Lighthouse guide", referral="Quiet voice", low="F2", high="D4", transition="B3", speaking="A2", phonation=(13.0, 12.1, 12.6), s=18.0, z=15.0, probes=(9.0, 9.5, 8.0), course=C.LAPSED, weeks=4),
    Person(name="Ines Korvald", age=29, group="women", occupation="Swim coach", referral="Vocal fatigue", low="F3", high="D5", transition="A4", speaking="A3", phonation=(18.0, 17.2, 16.9), s=22.0, z=20.0, probes=(12.0, 12.5, 11.0), course=C.OVER_KEEN, weeks=3, keeps=0.95, gain=0.8),
    Person(name="Radek Ostrow", age=48, group="men", occupation="Tram controller", referral="Pressed voice, radio all day", low="E2", high="F4", transition="C4", speaking="G2", phonation=(14.0, 13.2, 13.8), s=19.0, z=16.0, probes=(10.0, 10.5, 9.0), course=C.PLATEAUED, weeks=6, gain=0.4),
    Person(name="Alwin Prewett", age=74, group="men", occupation="Retired pilot", referral="Quiet voice, movement disorder", low="G2", high="C4", speaking="B2", phonation=(10.5, 9.8, 10.1), s=14.0, z=12.0, probes=(7.0, 7.5, 6.5), course=C.IMPROVING, weeks=4, gain=0.6, keeps=0.8, height=176, lungs="male"),
    Person(name="Jory Penhale", age=33, group="men", occupation="Shanty bass", referral="Range lost at the top", low="C2", high="E4", transition="C4", speaking="F2", phonation=(21.0, 20.2, 19.5), s=26.0, z=24.0, probes=(14.0, 15.0, 12.0), course=C.IMPROVING, weeks=3, gain=1.2, keeps=0.8),
    Person(name="Lotte Brandvik", age=41, group="women", occupation="Museum narrator", referral="Dry, raspy by noon", low="E3", high="C5", transition="G4", speaking="G3", phonation=(15.5, 15.0, 14.1), s=20.0, z=16.5, probes=(10.5, 11.0, 9.5), course=C.IMPROVING, weeks=5, gain=0.7),
    Person(name="Sorrel Vane", age=26, group="women", occupation="Harbour radio operator", referral="Gender-affirming voice", low="A2", high="A4", transition="E4", speaking="E3", phonation=(19.0, 18.4, 17.7), s=23.0, z=22.0, probes=(12.5, 12.0, 10.0), course=C.IMPROVING, weeks=3, gain=0.9),
    Person(name="Hedda Quill", age=58, group="women", occupation="Ticket clerk", referral="Weak voice", low="F3", high="A4", speaking="G3", phonation=(8.9, 8.2, 8.6), s=13.0, z=8.8, probes=(6.5, 6.0, 5.5), course=C.PLATEAUED, weeks=5, gain=0.3),
    Person(name="Emeric Stroud", age=66, group="men", occupation="Harbour pilot", referral="Weak after a long cold", low="A2", high="D4", speaking="C3", phonation=(11.2, 10.8, 10.0), s=16.0, z=12.0, probes=(7.5, 8.0, 6.5), course=C.LAPSED, weeks=3, keeps=0.6),
    Person(name="Nell Harbottle", age=35, group="women", occupation="Primary teacher", referral="Tires by Thursday", low="F3", high="E5", transition="B4", speaking="A3", phonation=(17.0, 16.3, 16.8), s=21.0, z=18.0, probes=(11.0, 12.0, 10.5), course=C.IMPROVING, weeks=2, gain=0.9, hers=False),
    Person(name="Corin Ashdown", age=14, group="children", occupation="Choir boy, voice changing", referral="Unsteady", low="A3", high="G4", phonation=(12.0, 11.1, 11.5), s=14.0, z=12.5, probes=(7.5, 7.0, 6.5), course=C.NEW, weeks=0, hers=False),
    Person(name="Petra Lindqvist", age=47, group="women", occupation="Soup kitchen manager", referral="Small gap", low="E3", high="F4", speaking="G3", phonation=(9.8, 9.1, 9.5), s=15.0, z=10.2, probes=(7.0, 7.5, 6.0), course=C.IMPROVING, weeks=4, gain=0.6, hers=False, height=170, lungs="female"),
    Person(name="Idris Wharram", age=55, group="men", occupation="Ferry captain", referral="Low, creaky voice", low="D2", high="C4", transition="A3", speaking="E2", phonation=(15.0, 14.4, 14.0), s=20.0, z=17.0, probes=(10.0, 11.0, 9.0), course=C.OVER_KEEN, weeks=2, keeps=0.9, gain=0.5, hers=False),
    Person(name="Wilma Garrod", age=69, group="women", occupation="Market trader", referral="Weak voice", low="E3", high="E4", phonation=(7.8, 7.1, 7.5), s=12.0, z=8.0, probes=(5.5, 6.0, 5.0), course=C.LAPSED, weeks=5, keeps=0.7, hers=False),
    Person(name="Kester Boyle", age=39, group="men", occupation="Crane driver", referral="Strained, shouts over engines", low="F2", high="E4", transition="B3", speaking="A2", phonation=(14.2, 13.5, 13.9), s=18.0, z=16.0, probes=(9.5, 10.0, 8.5), course=C.IMPROVING, weeks=3, gain=0.6, strain=3.0, hers=False),
    Person(name="Anouk Feral", age=31, group="women", occupation="Choir leader", referral="Soft high notes lost", low="G3", high="E5", transition="B4", speaking="B3", phonation=(18.5, 18.0, 17.1), s=23.0, z=21.0, probes=(12.0, 13.0, 10.5), course=C.PLATEAUED, weeks=4, gain=0.5, hers=False),
    Person(name="Silas Merrow", age=63, group="men", occupation="Tide-table editor", referral="Quiet voice", low="G2", high="D4", speaking="B2", phonation=(11.9, 11.0, 11.4), s=16.0, z=13.5, probes=(8.0, 8.5, 7.0), course=C.IMPROVING, weeks=6, gain=0.5, hers=False),
    Person(name="Odile Renfrew", age=50, group="women", occupation="Weather-desk speaker", referral="Hoarse for three weeks", low="F3", high="B4", phonation=(12.0, 11.5, 11.8), s=16.0, z=12.0, probes=(8.0, 8.5, 7.5), course=C.NEW, weeks=0, examined=False, hers=False),
    Person(name="Jonah Tresk", age=22, group="men", occupation="Boat-tour guide", referral="Vocal fatigue in season", low="E2", high="G4", transition="D4", speaking="B2", phonation=(20.0, 19.2, 19.6), s=24.0, z=22.0, probes=(13.0, 13.5, 12.0), course=C.IMPROVING, weeks=2, gain=1.0, keeps=0.75, hers=False),
    Person(name="Marit Oakes", age=45, group="women", occupation="Choir alto, net mender", referral="Weak low notes", low="E3", high="C5", transition="A4", speaking="G3", phonation=(13.2, 12.9, 12.0), s=18.0, z=15.5, probes=(9.0, 9.5, 8.5), course=C.NEW, weeks=0, hers=False),
    Person(name="Fergal Dunmoor", age=57, group="men", occupation="Lock keeper", referral="Hoarse evenings", low="F2", high="D4", transition="B3", speaking="A2", phonation=(12.4, 12.0, 11.1), s=17.0, z=14.0, probes=(8.5, 9.0, 7.5), course=C.PLATEAUED, weeks=4, gain=0.3, hers=False),
)  # fmt: skip
