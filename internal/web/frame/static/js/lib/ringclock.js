// One clock for all devices of a ring. The server says when the clock was started by its own
// time; each device works out how far its own time is off, so that all show the same.
import { phrase } from "./phrase.js";

const probes = 5; // questions of which the quickest counts: its answer was the least on the way
const again = 60_000; // ms between looks at how far we are off

/** serverTime keeps an estimate of the server's clock; now() is ms since 1970 by it. */
export class ServerTime {
  constructor() {
    this.off = 0;
    this.known = false;
  }

  now() {
    return Date.now() + this.off;
  }

  /** hint takes an instant the server wrote into what just arrived: good until it is measured. */
  hint(at) {
    if (!this.known && at) this.off = at - Date.now();
  }

  async measure() {
    let best = Infinity;
    for (let i = 0; i < probes; i++) {
      const asked = performance.now(), began = Date.now();
      try {
        const { now } = await (await fetch("/now", { headers: { Accept: "application/json" } })).json();
        const took = performance.now() - asked;
        if (took < best) {
          best = took;
          this.off = now - (began + took / 2);
          this.known = true;
        }
      } catch {
        break;
      }
    }
    setTimeout(() => this.measure(), again);
  }
}

/** ran is how long a clock has run, in ms. */
const ran = (clock, now) => (clock.spent ?? 0) + (clock.started ? Math.max(now - clock.started, 0) : 0);

/** read looks up what a clock shows at an instant by the server's time, in the parts of its way. */
export function read(clock, now) {
  if (!clock?.spans?.length) return { phase: "unset", round: 0, left: 0, running: false, closing: false };
  const running = Boolean(clock.started), spent = ran(clock, now), span = clock.spans.find((s) => spent < s.until);
  if (!span) return { phase: "done", round: clock.rounds, left: 0, running: false, closing: false };
  const phase = spent === 0 && !running ? "ready" : span.phase;
  return { phase, round: span.round, left: span.until - spent, running, closing: phase === "work" && spent >= span.cue };
}

/** spentOf is how long the work of the round has run, in ms; all of it once the round is over. */
export function spentOf(clock, now) {
  const r = read(clock, now);
  if (r.phase === "ready" || r.phase === "unset") return 0;
  return 1000 * clock.seconds - (r.phase === "work" ? r.left : 0);
}

/** words is a reading as it is shown: 1:05, rest 0:20, done. */
export function words(clock, now) {
  const r = read(clock, now), s = Math.ceil(r.left / 1000), time = `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
  if (r.phase === "unset") return "";
  if (r.phase === "done") return phrase("time");
  return `${clock.rounds > 1 ? `${r.round}/${clock.rounds} ` : ""}${phrase(`clock${r.phase === "rest" ? "rest" : ""}${r.running || r.phase === "ready" ? "" : "paused"}`, { time })}`;
}

/**
 * Cues sounds when a round begins, when its closing is told and when it ends. Browsers let a page
 * sound only after somebody has touched it.
 */
export class Cues {
  constructor(on) {
    this.on = on;
    this.last = null;
  }

  tone(pitch, long) {
    if (!this.on()) return;
    this.audio ??= new AudioContext();
    const t = this.audio.currentTime, tone = this.audio.createOscillator(), loud = this.audio.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.25, t);
    loud.gain.exponentialRampToValueAtTime(0.001, t + (long ? 0.8 : 0.18));
    tone.connect(loud).connect(this.audio.destination);
    tone.start();
    tone.stop(t + (long ? 0.8 : 0.18));
  }

  follow(clock, now) {
    const r = read(clock, now), is = `${r.phase} ${r.round} ${r.closing}`;
    const was = this.last;
    this.last = is;
    if (was === null || was === is || (!r.running && r.phase !== "done")) return;
    if (r.phase === "work") this.tone(r.closing ? 990 : 880, !r.closing);
    else if (r.phase === "rest" || r.phase === "done") this.tone(440, true);
  }
}
