"""A held note; its figures have columns of their own."""

from web.kinds.face import Face
from web.kinds.voice import voice_to_client, voice_to_clinician

FACE = Face(to_client=voice_to_client, to_clinician=voice_to_clinician)
