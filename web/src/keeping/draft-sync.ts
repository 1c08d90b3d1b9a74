import { Refusal, type Schemas } from "../api/client";
import { next, opened, resumed, stateOf, type Draft, type DraftEvent, type Effect, type Move, type Saved, type State } from "./draft";
import * as unsaved from "./unsaved";

/** How documents of a kind are kept: each call answers with what is saved then, and throws a Refusal. */
export type Keeper<D> = {
  /** Where it lies, such as `rig/night-ferry-a`. */
  path: string;
  save: (document: D, madeOn: number) => Promise<Saved<D>>;
  aside: (document: D, madeOn: number, newest: number) => Promise<Saved<D>>;
  move: (by: Move, madeOn: number) => Promise<Saved<D>>;
  /** To an earlier revision: as one of its own. */
  backTo: (revision: number, madeOn: number) => Promise<Saved<D>>;
  /** The document as it stood at one revision. */
  revision: (number: number) => Promise<D>;
  /** A page of revisions, newest first, all before a number where that is given. */
  history: (before: number | undefined) => Promise<Schemas["RevisionLine"][]>;
  fetch: () => Promise<Saved<D>>;
  /** Called with whatever is saved from now on. */
  onSaved: (saved: Saved<D>) => void;
};

/** Desks that are open, for the question before leaving and for what is heard of others. */
const open = new Set<DraftSync<never>>();

/** Runs the machine of a draft: keeps its state, does what it asks for, and tells whoever listens. */
export class DraftSync<D> {
  private listeners = new Set<() => void>();
  private timer = 0;
  draft: Draft<D>;

  constructor(
    first: Saved<D>,
    private keeper: Keeper<D>,
  ) {
    this.draft = opened(first);
  }

  /** On the screen from now on: what was left unsaved is taken up, and the window asks before it is left. */
  begin(): () => void {
    open.add(this as unknown as DraftSync<never>);
    void this.takeUp();
    // Closing the window or turning a phone off runs no clean-up of ours.
    window.addEventListener("pagehide", this.flush);
    window.addEventListener("beforeunload", this.ask);
    window.addEventListener("online", this.again);
    return () => {
      open.delete(this as unknown as DraftSync<never>);
      window.removeEventListener("pagehide", this.flush);
      window.removeEventListener("beforeunload", this.ask);
      window.removeEventListener("online", this.again);
      this.flush();
      window.clearTimeout(this.timer);
    };
  }

  get path(): string {
    return this.keeper.path;
  }

  revision = (number: number) => this.keeper.revision(number);

  history = (before: number | undefined) => this.keeper.history(before);

  /** Bring an earlier revision back, once what was changed last is saved. */
  async backTo(revision: number): Promise<void> {
    await this.whenSaved();
    const saved = await this.keeper.backTo(revision, this.draft.saved.revision);
    this.keeper.onSaved(saved);
    this.send({ type: "moved", saved });
  }

  listen = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  now = () => this.draft;

  state = (): State => stateOf(this.draft);

  send = (event: DraftEvent<D>) => this.become(next(this.draft, event));

  /** Try at once what is tried again later by itself. */
  again = () => {
    if (this.draft.phase === "retrying" || this.state() === "not saved") this.send({ type: "due" });
  };

  /** What was changed in the last moment is written before the page is left. */
  flush = () => {
    if (this.draft.phase === "waiting") this.send({ type: "due" });
  };

  /** Resolves once all that is on the screen is saved. */
  whenSaved = (): Promise<void> => {
    this.flush();
    return new Promise((resolve) => {
      const look = () => {
        if (this.state() !== "saved") return;
        this.listeners.delete(look);
        resolve();
      };
      this.listeners.add(look);
      look();
    });
  };

  private ask = (event: BeforeUnloadEvent) => {
    this.flush();
    if (this.state() === "not saved" || this.state() === "two versions") event.preventDefault();
  };

  private async takeUp(): Promise<void> {
    const found = await unsaved.left<D>(this.keeper.path);
    if (!found || this.draft.phase !== "still" || this.draft.dirty) return;
    if (JSON.stringify(found.document) === JSON.stringify(this.draft.saved.document)) unsaved.forget(this.keeper.path);
    else this.become(resumed(this.draft.saved, found.document, found.madeOn, found.sent));
  }

  private become([draft, effect]: [Draft<D>, Effect<D>?]): void {
    this.draft = draft;
    if (this.state() === "saved") unsaved.forget(this.keeper.path);
    else if (draft.dirty || draft.phase === "writing") unsaved.keep(this.keeper.path, draft.document, draft.saved.revision, draft.sent);
    this.listeners.forEach((listener) => listener());
    if (effect) void this.carryOut(effect);
  }

  private async carryOut(effect: Effect<D>): Promise<void> {
    window.clearTimeout(this.timer);
    if (effect.do === "wait") {
      this.timer = window.setTimeout(() => this.send({ type: "due" }), effect.ms);
      return;
    }
    try {
      const saved = await this.request(effect);
      this.keeper.onSaved(saved);
      this.send({ type: effect.do === "write" ? "written" : "moved", saved });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.send({ type: "failed", refusal: error });
    }
  }

  private request(effect: Exclude<Effect<D>, { do: "wait" }>): Promise<Saved<D>> {
    if (effect.do === "write") return this.keeper.save(effect.document, effect.madeOn);
    if (effect.do === "aside") return this.keeper.aside(effect.document, effect.madeOn, effect.newest);
    return effect.do === "fetch" ? this.keeper.fetch() : this.keeper.move(effect.by, effect.madeOn);
  }
}

/** Tell the draft sync of a document, where one is open, that somebody saved a revision of it. */
export function heardOf(path: string, revision: number): void {
  for (const sync of open) if (sync.path === path) sync.send({ type: "heard", revision });
}

/** The server is there again: whatever waits is tried at once. */
export const tryAgain = () => open.forEach((sync) => sync.again());

/** Whether anything on the screen would be left unsaved. */
export const isUnsaved = () => [...open].some((sync) => sync.state() === "not saved" || sync.state() === "two versions");
