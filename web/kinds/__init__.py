"""How each kind of measured task is said and drawn: a module a kind, each with its FACE, beside the
core's room of the same name. Nobody outside asks which kind it is; `registry.face_of` tells."""
