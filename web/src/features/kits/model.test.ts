import { describe, expect, it } from "vitest";

import type { Catalogue, Kit, KitPreview } from "../../api/client";
import { rowsOf, several, tally, withItem, withoutRow, withRow } from "./model";

const kit = {
  devices: [
    { profile: "z-body", count: 2 },
    { profile: "a-lens", count: 1 },
  ],
  cables: [{ cable: "hdmi", count: 3 }],
} as unknown as Kit;
const catalogue = {
  profiles: [
    { id: "z-body", name: "Zed body" },
    { id: "a-lens", name: "A lens" },
  ],
  cables: [{ id: "hdmi", name: "HDMI lead", family: "video" }],
} as unknown as Catalogue;

describe("the rows of a kit", () => {
  const rows = rowsOf(kit, catalogue);
  it("are devices by name, then cables", () => expect(rows.map((row) => row.name)).toEqual(["A lens", "Zed body", "HDMI lead"]));
  it("change the piece they stand for", () => {
    expect(withRow(kit, rows[0]!, { count: 5, firmware: "2.0" }).devices?.[1]).toMatchObject({
      profile: "a-lens",
      count: 5,
      firmware: "2.0",
    });
    expect(withRow(kit, rows[2]!, { count: 0, firmware: "2.0" }).cables?.[0]).toEqual({ cable: "hdmi", count: 0 });
  });
  it("can be taken out and put in", () => {
    expect(withoutRow(kit, rows[1]!).devices).toHaveLength(1);
    expect(withoutRow(kit, rows[2]!).cables).toHaveLength(0);
    expect(withItem(kit, "cable", "bnc").cables?.[1]).toMatchObject({ cable: "bnc", count: 1 });
    expect(withItem(kit, "device", "phone").devices?.[2]).toMatchObject({ profile: "phone", count: 1 });
  });
});

it("reads several words", () => expect(several(" B-01, B-02;B-03 ;")).toEqual(["B-01", "B-02", "B-03"]));

it("counts what is right, likely and wrong", () => {
  const preview = {
    lines: [{ sure: true }, { sure: false }, { sure: true, problems: ["bad"] }],
  } as unknown as KitPreview;
  expect(tally(preview)).toEqual({ right: 1, likely: 1, wrong: 1 });
});
