// A sheet as it lies on the bed, with the numbers of its pieces.
import { useMemo } from "react";
import type { JobOut, JobSheetOut, OnBedOut, ProgramOut } from "../../api/types";
import { type PieceNumber, SheetCanvas } from "../../frame/SheetCanvas";
import { useJobSheet } from "../../state/machines";

type Props = {
  job: JobOut;
  /** null until it has come */
  program: ProgramOut | null;
  /** the pieces with what became of them */
  marks: OnBedOut["pieces"];
  /** seconds of the program that are done */
  t: number;
  label: string;
};

/** Where each piece's number stands, and whether it is off. */
function numbersOf(sheet: JobSheetOut["sheet"], pieces: JobSheetOut["pieces"]): PieceNumber[] {
  const known = new Map(pieces.map((p) => [`${p.key}#${p.number}`, p]));
  return sheet.parts.map((p) => {
    const piece = known.get(`${p.part}#${p.number}`);
    return {
      text: piece?.code ?? "",
      x: p.middle[0],
      y: p.middle[1],
      size: Math.min(p.size[0], p.size[1]),
      done: (piece?.mark ?? "") as PieceNumber["done"],
    };
  });
}

export function BedPicture({ job, program, marks, t, label }: Props) {
  const laid = useJobSheet(job.id);
  const marked = marks.map((p) => p.mark).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer with the same marks draws nothing anew
  const numbers = useMemo(() => (laid ? numbersOf(laid.sheet, marks.length ? marks : laid.pieces) : []), [laid, marked]);
  const outlines = useMemo(() => (program?.under ? laid?.sheet.parts.map((p) => p.outside) : undefined), [program, laid]);
  return (
    <div className="bedpicture">
      {program ? (
        <SheetCanvas
          program={program}
          t={t}
          stock={job.tint}
          lit=""
          label={label}
          test="bed"
          numbers={numbers}
          outlines={outlines}
        />
      ) : (
        <p className="soft">The sheet comes…</p>
      )}
    </div>
  );
}
