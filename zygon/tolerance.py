"""Every tolerance of the core, each with its reason. Lengths in millimetres; for directions, angles and shares the same figures as plain numbers."""

__all__ = ["CHECK", "CONTACT", "DISPLAY_SAGITTA", "EPS", "MERGED", "SAGITTA", "SEEN", "SLACK", "SNAP", "TINY", "WITHIN"]

#: Inputs of booleans are rounded to this: raw floats leave slivers where edges should coincide.
SNAP = 1e-6
#: Two faces this near are in contact; ten times the snap, far under any cutter's accuracy.
CONTACT = 1e-5
#: Greatest distance between an arc and its chords inside booleans.
SAGITTA = 0.001
#: The same for pictures and meshes on screen.
DISPLAY_SAGITTA = 0.05
#: A limit is kept, and two figures are one, to this: what sums of floats over some metres leave, and a thousandth of what anybody measures.
WITHIN = 1e-6
#: Points that near to one another, or to the line of their neighbours, are one where an outline is tidied; less than the snap.
MERGED = 1e-7
#: Below this a length, or a part of a direction, is nothing.
EPS = 1e-9
#: What rounding leaves of a zero; nothing is divided by less.
TINY = 1e-12
#: Rules about a part are kept to this: a tenth of the least that is shown of a length.
SLACK = 1e-4
#: Less of a part, or less of a slope, is neither seen nor cut: slivers, and what lies on a line.
SEEN = 1e-3
#: Layouts are legal to this; a tenth of what any cutter repeats to.
CHECK = 1e-3
