// One clock for all devices of a ring. The server says when the clock was started by its own
// time; each device works out how far its own time is off, so that all show the same.

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

/** read says what a clock shows at an instant by the server's time, as the server itself would. */
export function read(clock, now) {
  if (!clock?.seconds) return { phase: "unset", round: 0, left: 0, running: false, closing: false };
  const rest = clock.rest ?? 0, whole = 1000 * (clock.rounds * clock.seconds + (clock.rounds - 1) * rest);
  const running = Boolean(clock.started);
  const spent = (clock.spent ?? 0) + (running ? Math.max(now - clock.started, 0) : 0);
  if (spent >= whole) return { phase: "done", round: clock.rounds, left: 0, running: false, closing: false };
  if (spent === 0 && !running) return { phase: "ready", round: 1, left: clock.seconds * 1000, running, closing: false };
  const lap = 1000 * (clock.seconds + rest), within = spent % lap, round = Math.floor(spent / lap) + 1;
  if (within < 1000 * clock.seconds) {
    const left = 1000 * clock.seconds - within;
    return { phase: "work", round, left, running, closing: clock.cue > 0 && left <= 1000 * clock.cue };
  }
  return { phase: "rest", round, left: lap - within, running, closing: false };
}

/** spentOf is how long the work of the round has run, in ms. */
export function spentOf(clock, now) {
  const r = read(clock, now);
  if (r.phase === "work") return 1000 * clock.seconds - r.left;
  return r.phase === "ready" || r.phase === "unset" ? 0 : 1000 * clock.seconds;
}

/** words is a reading as it is shown: 1:05, rest 0:20, done. */
export function words(clock, now) {
  const r = read(clock, now), s = Math.ceil(r.left / 1000), time = `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
  if (r.phase === "unset") return "";
  if (r.phase === "done") return "time";
  return `${clock.rounds > 1 ? `${r.round}/${clock.rounds} ` : ""}${r.phase === "rest" ? "rest " : ""}${time}${r.running || r.phase === "ready" ? "" : " paused"}`;
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
