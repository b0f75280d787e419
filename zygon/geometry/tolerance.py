"""Every tolerance of the geometry, each with its reason. All in millimetres."""

__all__ = ["CHECK", "CONTACT", "DISPLAY_SAGITTA", "EPS", "SAGITTA", "SNAP"]

#: Inputs of booleans are rounded to this: raw floats leave slivers where edges should coincide.
SNAP = 1e-6
#: Two faces this near are in contact; ten times the snap, far under any cutter's accuracy.
CONTACT = 1e-5
#: Greatest distance between an arc and its chords inside booleans.
SAGITTA = 0.001
#: The same for pictures and meshes on screen.
DISPLAY_SAGITTA = 0.05
#: Below this a length is nothing.
EPS = 1e-9
#: Layouts are legal to this; a tenth of what any cutter repeats to.
CHECK = 1e-3
