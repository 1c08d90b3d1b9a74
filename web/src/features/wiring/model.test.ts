import type { ElkNode } from "elkjs/lib/elk-api";
import Elk from "elkjs/lib/elk.bundled.js";
import { describe, expect, it } from "vitest";

import type { Drawing, Plan } from "../../api/client";
import { bandsOf, flagPoint, flagsOf, LANES, pathOf, pointsOf, squeezed, toGraph } from "./model";

const port = (id: string) => ({ id, marking: id, place: "left", connector: "USB-C", is_radio: false, stage: "tilt-cage" });
const drawing = {
  devices: [
    { id: "body", name: "Body", kind: "camera-body", stage: "tilt-cage", used: true, ports: [port("usb")] },
    { id: "grip", name: "Grip", kind: "gimbal", stage: "roll-arm", used: true, ports: [port("cam")] },
    { id: "spare", name: "Spare", kind: "phone", stage: "off-gimbal", used: false, ports: [] },
  ],
} as unknown as Drawing;
const end = (device: string, endpoint: string) => ({ device, endpoint });
const plan = { joins: [{ link: { id: "l", a: end("grip", "cam"), b: end("body", "usb") } }] } as unknown as Plan;

describe("the map", () => {
  it("draws only what is used and goes from the camera outwards", () => {
    const graph = toGraph(drawing, plan);
    expect(graph.children?.map((node) => node.id)).not.toContain("spare");
    expect(graph.edges?.[0]).toMatchObject({ sources: ["body.usb"], targets: ["grip.cam"] });
  });

  it("lays lanes out in order, none over another", async () => {
    const graph: ElkNode = await new Elk().layout(toGraph(drawing, plan));
    const bands = bandsOf(graph);
    expect(bands.map((band) => band.name)).toEqual(LANES.map((lane) => lane.name));
    bands.slice(1).forEach((band, index) => expect(band.top).toBeCloseTo(bands[index]!.bottom));
    const place = (id: string) => graph.children!.find((node) => node.id === id)!;
    expect(place("body").y! + place("body").height!).toBeLessThan(place("grip").y!);
    expect(pointsOf(graph.edges![0]!).length).toBeGreaterThan(1);
  });

  it("squeezes a marking in capitals into its box, and leaves the others as they are", () => {
    const boxOf = (marking: string) => {
      const named = { ...drawing, devices: [{ ...drawing.devices[0]!, ports: [{ ...port("usb"), marking }] }] } as Drawing;
      return toGraph(named, { joins: [] } as unknown as Plan).children![0]!.ports![0]!.width!;
    };
    for (const marking of ["MOTORS", "POWER IN", "SDI 1"]) expect(squeezed(marking) ?? 0).toBeLessThan(boxOf(marking));
    expect(squeezed("MOTORS")).toBeGreaterThan(0.8 * 6 * 21 * 0.7);
    expect(squeezed("small camera")).toBeUndefined();
  });

  it("hangs the flag on the longest piece", () => {
    expect(
      flagPoint([
        { x: 0, y: 0 },
        { x: 0, y: 10 },
        { x: 100, y: 10 },
      ]),
    ).toEqual({ x: 50, y: 10 });
  });

  it("hangs the flag of a short line beside it, over no name", () => {
    const port = (id: string, y: number) => ({ id, x: 50, y, width: 60, height: 26 });
    const children = [
      { id: "a", x: 0, y: 0, width: 200, height: 40, ports: [port("a.out", 40)] },
      { id: "b", x: 0, y: 104, width: 200, height: 40, ports: [port("b.in", -26)] },
    ];
    const line = {
      id: "l",
      sources: ["a.out"],
      targets: ["b.in"],
      sections: [{ id: "s", startPoint: { x: 80, y: 66 }, endPoint: { x: 80, y: 78 } }],
    };
    const { on, at } = flagsOf({ id: "g", children, edges: [line] } as ElkNode, ["l"]).get("l")!;
    expect(on).toEqual({ x: 80, y: 72 });
    expect(at.y).toBe(72);
    expect(Math.abs(at.x - 80)).toBeGreaterThanOrEqual(30 + 23);
  });

  it("moves a flag along its line, off the name of an axis", () => {
    const line = {
      id: "l",
      sources: ["a"],
      targets: ["b"],
      sections: [{ id: "s", startPoint: { x: 80, y: 0 }, endPoint: { x: 80, y: 400 } }],
    };
    const graph = { id: "g", children: [], edges: [line] } as unknown as ElkNode;
    const axis = { x: 60, y: 190, width: 100, height: 21 };
    expect(flagsOf(graph, ["l"]).get("l")!.at).toEqual({ x: 80, y: 200 });
    const { on, at } = flagsOf(graph, ["l"], [axis]).get("l")!;
    expect(on).toEqual(at);
    expect(Math.abs(at.y - 200)).toBeGreaterThan(21);
  });

  it("starts and ends a line where its points do", () => {
    const path = pathOf([
      { x: 1, y: 2 },
      { x: 1, y: 50 },
      { x: 40, y: 50 },
    ]);
    expect(path.startsWith("M1 2")).toBe(true);
    expect(path.endsWith("L40 50")).toBe(true);
    expect(path).toContain("Q1 50");
  });
});
