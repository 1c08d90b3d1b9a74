import type { ReactNode } from "react";

import { Button } from "../../../ui";
import { clock, minutesFrom } from "../model";
import { Time } from "./time";

type Span = { begins: string; ends: string };

/** Several times from and to, each taken away or changed, and one more after the last. */
export function Spans<One extends Span>({
  name,
  spans,
  call,
  besides,
  onChange,
}: {
  /** What one of them is, such as `pause`. */
  name: string;
  spans: readonly One[];
  call: string;
  /** What else is said of each. */
  besides?: (one: One, put: (next: One) => void) => ReactNode;
  onChange: (spans: One[]) => void;
}) {
  const put = (number: number, one: One) => onChange(spans.map((was, at) => (at === number ? one : was)));
  const next = spans.length > 0 ? spans.at(-1)!.ends : call;
  return (
    <div className="flex flex-wrap items-end gap-2">
      {spans.map((one, number) => (
        <span key={number} className="flex flex-wrap items-end gap-1 rounded-md border border-edge px-2 pb-1">
          <Time label={`${name} from`} value={one.begins} onChange={(begins) => begins && put(number, { ...one, begins })} />
          <Time label="to" value={one.ends} onChange={(ends) => ends && put(number, { ...one, ends })} />
          {besides?.(one, (next) => put(number, next))}
          <Button
            weight="quiet"
            aria-label={`Remove ${name} from ${one.begins}`}
            onClick={() => onChange(spans.filter((_, at) => at !== number))}
          >
            ✕
          </Button>
        </span>
      ))}
      <Button onClick={() => onChange([...spans, { begins: next, ends: clock(call, minutesFrom(call, next) + 15) } as One])}>
        + {name}
      </Button>
    </div>
  );
}
