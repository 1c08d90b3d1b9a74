import type { Step } from "../../api/client";

export type Wait = { step: string; title: string; until: number };

/** What goes on by itself after a step that was ticked: until when, the first to be over first. */
export function waitsOf(steps: readonly Step[], ticks: Record<string, string>, now: number): Wait[] {
  return steps
    .flatMap(({ id, title, waits_s }) => {
      const at = ticks[id];
      const until = at ? new Date(at).getTime() + waits_s * 1000 : 0;
      return waits_s > 0 && until > now ? [{ step: id, title, until }] : [];
    })
    .sort((one, other) => one.until - other.until);
}

/** Tell who looks elsewhere that a wait is over: a phone shakes, a laptop sounds. */
export function tellOver(): void {
  navigator.vibrate?.([180, 90, 180]);
  try {
    const sound = new AudioContext();
    const tone = sound.createOscillator();
    const volume = sound.createGain();
    volume.gain.value = 0.15;
    tone.frequency.value = 660;
    tone.connect(volume).connect(sound.destination);
    tone.start();
    tone.stop(sound.currentTime + 0.25);
    tone.onended = () => void sound.close();
  } catch {
    // Where there is no sound, what is written has to do.
  }
}
