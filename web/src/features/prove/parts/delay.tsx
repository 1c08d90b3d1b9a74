import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";

import { api, told, type Reading } from "../../../api/client";
import { Button, Choose, TextInput } from "../../../ui";
import { readTime, takes, type Ask } from "../model";

const WAYS = [
  { value: "frames", label: "Count frames" },
  { value: "clocks", label: "Read both clocks" },
];
const RATES = [24, 25, 30, 50, 60, 120, 240].map((rate) => ({ value: String(rate), label: `filmed at ${rate} frames a second` }));
const SAYS = {
  holds: "✔ within its limit",
  fails: "✕ over its limit",
  open: "? the limit lies within the uncertainty: film it at more frames a second",
  missing: "",
};
const LOOKS = { holds: "text-good", fails: "font-bold text-bad", open: "text-warn", missing: "" };
type Film = Pick<Reading, "filmed" | "clocks">;

type Notes = { way: string; rate: string; frames: string; real: string; shown: string };
const BLANK: Notes = { way: "frames", rate: "60", frames: "", real: "", shown: "" };

const filmOf = ({ way, rate, frames, real, shown }: Notes) => (way === "frames" ? filmed(frames, rate) : clocks(real, shown));

/** The delay of a picture from film of the running clock: counted frames, or both clocks read in one frame. */
export function Delay({
  ask,
  onRead,
  onVerdict,
}: {
  ask: Ask;
  onRead: (film: Film | undefined) => void;
  onVerdict: (fails: boolean) => void;
}) {
  const [notes, setNotes] = useState(BLANK);
  const film = filmOf(notes);
  const { data } = useQuery({
    queryKey: ["delay", film, ask.at_most],
    queryFn: () => told(api.POST("/api/delay", { body: { reading: { ask: ask.id, ...film }, at_most_ms: ask.at_most } })),
    enabled: film !== undefined,
    staleTime: Infinity,
    retry: false,
  });
  const fails = film !== undefined && data?.verdict === "fails";
  useEffect(() => onVerdict(fails), [fails, onVerdict]);
  const note = (part: Partial<Notes>) => {
    const now = { ...notes, ...part };
    setNotes(now);
    onRead(filmOf(now));
  };
  const isTyped = Boolean(notes.frames || notes.real || notes.shown);
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap items-center gap-2">
        <Choose label="How it is measured" value={notes.way} choices={WAYS} onChange={(way) => note({ way })} />
        {notes.way === "frames" && <Choose label="Frame rate" value={notes.rate} choices={RATES} onChange={(rate) => note({ rate })} />}
        <Link to="/clock" target="_blank" className="flex min-h-11 items-center px-2 underline">
          Show the clock
        </Link>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <ReadOff notes={notes} onNote={note} />
        <output className="text-2xl font-bold tabular-nums">
          {film && data ? `${data.measured.value} ± ${data.measured.plus_minus} ms` : ""}
          {film && data && ask.at_most != null && <span className={`ml-2 text-base ${LOOKS[data.verdict]}`}>{SAYS[data.verdict]}</span>}
        </output>
        {film && !data && <span className="text-soft">worked out at the cart</span>}
        {isTyped && !film && <span className="text-warn">Numbers only, such as {notes.way === "frames" ? "5 6 5" : "12.480"}</span>}
        {isTyped && (
          <Button weight="quiet" onClick={() => note({ frames: "", real: "", shown: "" })}>
            Clear
          </Button>
        )}
      </div>
    </div>
  );
}

/** What is read off the film: a number for each take, or the two clocks. */
function ReadOff({ notes, onNote }: { notes: Notes; onNote: (part: Partial<Notes>) => void }) {
  if (notes.way === "frames") {
    const label = "Frames between clock and screen, a number for each take";
    return <Typed label={label} value={notes.frames} placeholder="5 6 5" onChange={(frames) => onNote({ frames })} />;
  }
  return (
    <>
      <Typed label="The clock itself" value={notes.real} placeholder="12.480" onChange={(real) => onNote({ real })} />
      <Typed label="On the screen" value={notes.shown} placeholder="12.396" onChange={(shown) => onNote({ shown })} />
    </>
  );
}

function Typed({
  label,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  placeholder: string;
  onChange: (text: string) => void;
}) {
  return (
    <label className="flex flex-wrap items-center gap-2">
      <span>{label}</span>
      <TextInput
        value={value}
        placeholder={placeholder}
        inputMode="decimal"
        autoComplete="off"
        onChange={(event) => onChange(event.target.value)}
        className="w-32 tabular-nums"
      />
    </label>
  );
}

function filmed(typed: string, rate: string): Film | undefined {
  const frames = takes(typed);
  return frames?.every(Number.isInteger) ? { filmed: { frames, rate_fps: Number(rate) } } : undefined;
}

function clocks(real: string, shown: string): Film | undefined {
  const real_ms = readTime(real);
  const shown_ms = readTime(shown);
  return real_ms === undefined || shown_ms === undefined ? undefined : { clocks: { pairs: [{ real_ms, shown_ms }], refresh_hz: 60 } };
}
