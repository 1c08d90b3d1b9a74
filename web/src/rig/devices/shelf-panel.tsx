import { SidePanel } from "../parts/side-panel";
import { useDraft } from "../use-draft";
import { withDevice } from "./model";
import { Shelf } from "./shelf-list";

/** The shelf beside a rig: what is taken is in it at once. */
export function ShelfPanel() {
  const { rig, edit } = useDraft();
  return (
    <SidePanel title="From the shelf">
      <Shelf have={rig.devices.map((device) => device.profile)} rig={rig.id} onTake={(piece) => edit((now) => withDevice(now, piece))} />
    </SidePanel>
  );
}
