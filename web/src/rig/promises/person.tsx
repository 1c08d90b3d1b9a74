import { useState } from "react";

import type { RigPromise } from "../../api/client";
import { Button, TextInput } from "../../ui";
import { useDraft } from "../use-draft";
import { withPersonRenamed, withPromise } from "./model";

/** To whom it is promised: given to somebody else, or the person called otherwise in all that they were promised. */
export function PromisedTo({ promise }: { promise: RigPromise }) {
  const { rig, edit } = useDraft();
  const [name, setName] = useState(promise.who);
  const wanted = name.trim();
  const differs = wanted !== "" && wanted !== promise.who;
  const others = rig.promises.filter((one) => one.who === promise.who).length;
  const give = () => edit((now) => withPromise(now, promise.id, { who: wanted }));
  return (
    <form
      className="flex flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (differs) give();
      }}
    >
      <span>to</span>
      <TextInput aria-label="Promised to" value={name} maxLength={60} onChange={(event) => setName(event.target.value)} className="w-44" />
      {differs && <Button type="submit">Give it to {wanted}</Button>}
      {differs && others > 1 && (
        <Button onClick={() => edit((now) => withPersonRenamed(now, promise.who, wanted))}>
          Call {promise.who} so in all {others}
        </Button>
      )}
    </form>
  );
}
