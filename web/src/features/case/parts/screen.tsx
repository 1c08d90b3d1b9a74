import { useEffect, useRef } from "react";
import { useSearchParams } from "react-router";

import { useAnswer, useDraft, withDevice } from "../../../rig";
import { Bag } from "./bag";
import { Devices } from "./devices";
import { SmallParts } from "./small-parts";

/** A device that was made for this rig in the workshop comes with the address, once. */
function useTaken() {
  const [search, setSearch] = useSearchParams();
  const { edit } = useDraft();
  const { catalogue } = useAnswer();
  const taken = useRef<string>(undefined);
  const wanted = search.get("take");
  const known = catalogue?.profiles.some((one) => one.id === wanted) ?? false;
  useEffect(() => {
    if (!wanted || !known || taken.current === wanted) return;
    taken.current = wanted;
    setSearch({}, { replace: true });
    edit((now) => withDevice(now, { profile: wanted }));
  }, [edit, known, setSearch, wanted]);
}

/** What lies there: devices and cables as found, and the shelf to take more from. */
export function CaseScreen() {
  useTaken();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @3xl:h-full @3xl:grid-cols-2">
      <Devices />
      <div className="flex min-h-0 flex-col gap-3 overflow-auto">
        <Bag />
        <SmallParts />
      </div>
    </div>
  );
}
