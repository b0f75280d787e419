// An end of a member: how it is cut, its template, which member runs on there, and what is done at it once it is sawn.
import { Button, Tooltip } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useState } from "react";
import type { MemberOut } from "../api/types";
import { type Member, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { EndPlate } from "./EndPlate";
import { RecordForm } from "./RecordForm";

export const degrees = (radians: number) => `${Number(((radians * 180) / Math.PI).toFixed(2))}°`;

/** An end as a saw is set for it, or what else is done there. */
function endWords(end: MemberOut["ends"][number]): string {
  const off = end.off === null ? "" : end.off > 1e-9 ? `${degrees(end.off)} off square` : "";
  return off && end.words === "square" ? off : [off, words(end.words)].filter(Boolean).join(", ");
}

type EndProps = {
  end: "a" | "b";
  partKey: string;
  member: Pick<Member, "name" | "stock" | "worked">;
  /** It lies on lines of a frame, where others meet its ends. */
  framed?: boolean;
  told: MemberOut["ends"][number] | undefined;
  bent: boolean;
  href: string;
};

/** An end: how it is cut, its template, and what is done there once it is sawn. */
export function MemberEnd({ end, partKey, member, told, bent, href, framed = true }: EndProps) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const form = useForms().end_work;
  const work = member.worked?.[end];
  const [open, setOpen] = useState(false);
  const [fault, setFault] = useState("");
  const [plate, setPlate] = useState(false);
  const name = end.toUpperCase();
  const stock = doc.stocks[member.stock];
  const round = stock?.kind === "bar" && stock.shape === "round";

  function edit() {
    if (work || open) {
      setOpen(!open);
      return;
    }
    void commit(`${member.name}: work on end ${name}`, [
      { op: "add", path: pointer("parts", partKey, "worked"), value: { ...member.worked, [end]: {} } },
    ]).then((fine) => fine && setOpen(true));
  }

  return (
    <>
      <div className="endline">
        <span>
          <b>{name}</b> {told ? endWords(told) : ""}
        </span>
        {told?.template && (
          <Button
            component="a"
            size="compact-xs"
            leftSection={<IconDownload size={13} />}
            href={href}
            aria-label={`Template of end ${name}, DXF`}
          >
            Template
          </Button>
        )}
        {told?.gives_way && (
          <Tooltip label="It runs on here, and what ends here with it lies on it">
            <Button
              size="compact-xs"
              aria-label={`End ${name} runs on`}
              onClick={async () => setFault(await operate({ operation: "run_on", member: partKey, end }))}
            >
              Run on
            </Button>
          </Tooltip>
        )}
        {framed && told && told.words === "square" && !bent && (
          <Button size="compact-xs" aria-expanded={plate} aria-label={`Plate on end ${name}`} onClick={() => setPlate(!plate)}>
            Plate…
          </Button>
        )}
        {round && (work || !framed || told?.words === "square") && (
          <Button size="compact-xs" aria-expanded={open} aria-label={`Work on end ${name}`} onClick={edit}>
            {stock.wall ? "Flat, chamfer…" : "Thread, ring, flat…"}
          </Button>
        )}
      </div>
      {fault && <div className="error">{fault}</div>}
      {plate && <EndPlate partKey={partKey} end={end} onDone={() => setPlate(false)} />}
      {open && work && form && (
        <div className="inset">
          <RecordForm
            form={form}
            path={["parts", partKey, "worked", end]}
            record={{ ...work }}
            title={`${member.name}, end ${name}`}
            skip={notAsked(work, Boolean(stock?.kind === "bar" && stock.wall))}
          />
        </div>
      )}
    </>
  );
}

/** What is not asked of an end: a tube has no thread of its own, and an end that is flat neither thread nor chamfer. */
function notAsked(work: NonNullable<Member["worked"][string]>, tube: boolean): string[] {
  if (work.flat) return ["thread", "long", "chamfer", "ring", ...(work.bore ? [] : ["bore_off"])];
  const flat = ["blend", "thick", "looks", "bore", "bore_off", ...(tube ? ["ring"] : [])];
  if (work.thread) return [...flat, "flat"];
  return tube ? [...flat, "thread", "long"] : [...flat, "long", ...(work.chamfer ? ["flat"] : [])];
}
