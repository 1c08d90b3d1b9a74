import { useState } from "react";

import { Button, Choose, NumberField, TextField } from "../../ui";
import { lacking, type SmallPart } from "./model";

const KINDS: readonly SmallPart["kind"][] = ["screw", "plate", "rods", "clamp", "arm", "shoe", "strap", "key"];
const NEW: Partial<SmallPart> & { kind: SmallPart["kind"] } = { kind: "screw", name: "", size: "" };

/** A part that is not on the list: what it is, its size and weight. */
export function OwnPart({ onMade }: { onMade: (made: SmallPart) => void }) {
  const [made, setMade] = useState(NEW);
  const [said, setSaid] = useState(0);
  const lacks = lacking(made);
  const say = (more: Partial<SmallPart>) => setMade((now) => ({ ...now, ...more }));
  return (
    <details>
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">Put in one that is not on the list</summary>
      <form
        key={said}
        className="flex flex-wrap items-end gap-2 pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          if (lacks) return;
          onMade(made as SmallPart);
          setMade(NEW);
          setSaid((now) => now + 1);
        }}
      >
        <TextField label="What it is called" value={made.name} maxLength={80} onChange={(name) => say({ name })} />
        <div>
          <span className="block text-sm text-soft">Kind</span>
          <Choose
            label="Kind of part"
            value={made.kind}
            choices={KINDS.map((kind) => ({ value: kind, label: kind }))}
            onChange={(kind) => say({ kind: kind as SmallPart["kind"] })}
          />
        </div>
        <TextField label="Size" value={made.size} maxLength={40} className="w-32" placeholder="1/4-20" onChange={(size) => say({ size })} />
        <NumberField
          label={made.kind === "screw" ? "How far it stands out" : "How long it is"}
          value={made.length_mm}
          unit={made.kind === "screw" ? "mm out" : "mm long"}
          min={0}
          max={1000}
          step={0.5}
          onChange={(length_mm) => say({ length_mm })}
        />
        <NumberField
          label="What it weighs"
          value={made.mass_g}
          unit="g"
          min={0}
          max={5000}
          step={1}
          placeholder="?"
          onChange={(mass_g) => say({ mass_g: mass_g ?? undefined })}
        />
        <Button type="submit" weight="lead" disabled={lacks !== null}>
          Put it in
        </Button>
        {lacks && <p className="w-full text-soft">{lacks}</p>}
      </form>
    </details>
  );
}
