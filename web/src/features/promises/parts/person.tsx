import { useState } from "react";

import { useDraft } from "../../../rig";
import { withPersonRenamed } from "../model";

/** A person's name above their promises, changed in place. It takes when the field is left, or with Enter. */
export function PersonName({ person }: { person: string }) {
  const { edit } = useDraft();
  const [name, setName] = useState(person);
  const take = () => {
    const wanted = name.trim();
    if (wanted && wanted !== person) edit((rig) => withPersonRenamed(rig, person, wanted));
    else setName(person);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <input
        aria-label={`Name of ${person}`}
        value={name}
        maxLength={60}
        onChange={(event) => setName(event.target.value)}
        onBlur={take}
        className="min-h-11 w-72 max-w-full rounded-md border border-transparent bg-transparent text-lg font-semibold hover:border-edge focus:border-edge focus:bg-ground focus:px-2"
      />
    </form>
  );
}
