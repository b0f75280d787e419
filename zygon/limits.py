"""How large a design and an edit may be, in one place."""

__all__ = [
    "FARTHEST", "MAX_BIT", "MAX_BORES", "MAX_BORES_IN_ROWS", "MAX_CONTOURS", "MAX_COPIES", "MAX_COPY_RECORDS", "MAX_GROUPS", "MAX_INSTANCES", "MAX_LENGTH", "MIN_THICKNESS", "MAX_DOCUMENT_BYTES", "MAX_DRAWN_CURVES", "MAX_DRAWN_POINTS", "MAX_DRAWN_REFERENCES", "MAX_DRAWN_RELATIONS", "MAX_FEATURES", "MAX_FIELD_HOLES", "MAX_FLANGES", "MAX_FRAMES", "MAX_FRAME_LINES", "MAX_FRAME_POINTS", "MAX_HOLES", "MAX_MEMBER_HOLES", "MAX_JOINTS", "MAX_MOVES", "MAX_POSITIONS", "MAX_TIES", "MAX_NEST_PARTS", "MAX_PARTS", "MAX_PAPERS", "MAX_PAPER_EDITS", "MAX_PAPER_NOTE", "MAX_PATCH_BYTES", "MAX_PICTURE", "MAX_REPEATED",
    "MAX_PATCH_OPERATIONS", "MAX_QUANTITY", "MAX_SIZES", "MAX_SOCKETS", "MAX_UPLOAD_BYTES", "MAX_VERTICES",
]  # a row a line  # fmt: skip

MAX_PARTS = 400
MAX_JOINTS = 1200
MAX_SIZES = 400
MAX_FEATURES = 200  # a part
MAX_HOLES = 4000  # of one perforation
MAX_REPEATED = 1000  # of one cut in rows
MAX_FIELD_HOLES = 10_000  # of all perforations of a design
MAX_FLANGES = 200  # of a folded part
MAX_BORES = 400
MAX_BORES_IN_ROWS = 500  # of one bore
MAX_FRAMES = 40
MAX_FRAME_POINTS = 400
MAX_FRAME_LINES = 400
MAX_MEMBER_HOLES = 60  # records of holes in a member
MAX_SOCKETS = 12  # of a connector
MAX_MOVES = 100  # said of movements
MAX_POSITIONS = 40
MAX_TIES = 200
MAX_DRAWN_POINTS = 1000  # of a drawing
MAX_DRAWN_CURVES = 1000
MAX_DRAWN_REFERENCES = 100
MAX_DRAWN_RELATIONS = 2000
MAX_PICTURE = 3000  # pixels of a picture behind a drawing, each way
MAX_QUANTITY = 500  # copies of a part
MAX_GROUPS = 200
MAX_COPY_RECORDS = 200
MAX_COPIES = 200  # of one repeat, the original included
MAX_INSTANCES = 1500  # of all parts in their places
MAX_NEST_PARTS = 1500
MAX_VERTICES = 250_000  # an imported file
MAX_CONTOURS = 50_000
MAX_PAPERS = 1000  # sheets of which something is said
MAX_PAPER_EDITS = 500  # of one sheet
MAX_PAPER_NOTE = 2000  # letters
MAX_PATCH_OPERATIONS = 2000
MAX_PATCH_BYTES = 1_000_000
MAX_DOCUMENT_BYTES = 4_000_000
MAX_UPLOAD_BYTES = 12_000_000
MAX_LENGTH = 100_000.0  # mm; beyond it nothing is cut from sheet, and floats no longer hold a micrometre
FARTHEST = 10 * MAX_LENGTH  # mm from a drawing's origin
MIN_THICKNESS = 0.01  # mm
MAX_BIT = 100.0  # mm; no router turns a wider one
