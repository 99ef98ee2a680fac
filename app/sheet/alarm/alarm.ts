import type { AlarmAbilities } from "./alarm-words";
import type { Ring } from "./phases";

/** That the person was asked for notifications, so that nobody is asked twice. */
const ASKED = "hound-asked-to-notify";
const WORKER = "/alarm-worker.js";
const AGAIN_MS = 20_000;
const GIVES_UP_MS = 15 * 60_000;
const NOTHING: AlarmAbilities = { sound: "no", vibration: false, notification: "no", screen: false };

/**
 * The alarm of a page's clocks: sound, vibration, a notification when the page is out of sight, and a screen that stays on.
 * It rings again and again until somebody touches the page: one tone is not heard beside a dishwasher.
 */
class Alarm {
  #audio: AudioContext | null = null;
  #wake: WakeLockSentinel | null = null;
  #keepOn = false;
  #asking = false;
  /** The device has refused to keep its screen on, as one does that has little charge left. */
  #screenRefused = false;
  #repeating: ReturnType<typeof setInterval> | null = null;
  #abilities = NOTHING;
  #listening = false;
  readonly #listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listen();
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly snapshot = (): AlarmAbilities => this.#abilities;
  readonly serverSnapshot = (): AlarmAbilities => NOTHING;

  ring(rings: readonly Ring[]): void {
    if (rings.length === 0) return;
    const times = rings.some((one) => one.urgent) ? 3 : 1;
    this.#quiet();
    const until = Date.now() + GIVES_UP_MS;
    const once = (): void => {
      if (Date.now() > until) this.#quiet();
      this.#sound(times);
      vibrate(times);
    };
    once();
    this.#repeating = setInterval(once, AGAIN_MS);
    if (document.visibilityState === "hidden") for (const one of rings) void notify(one);
  }

  /** A clock was started by hand: the one moment at which a device takes such a question for meant. */
  askOnce(): void {
    if (notificationState() !== "ask") return;
    remember(ASKED);
    void Notification.requestPermission().then(this.#look, this.#look);
    this.#look();
  }

  /** As long as a clock runs, the screen stays on while the page is in sight. */
  keepScreenOn(on: boolean): void {
    this.#listen();
    this.#keepOn = on;
    void this.#holdScreen();
  }

  #listen(): void {
    if (this.#listening) return;
    this.#listening = true;
    for (const touch of ["pointerdown", "keydown"] as const)
      document.addEventListener(touch, this.#touched, { capture: true, passive: true });
    document.addEventListener("visibilitychange", () => void this.#holdScreen());
    if (notificationState() !== "no") void registerWorker();
    this.#look();
  }

  readonly #touched = (): void => {
    this.#quiet();
    if (this.#audio?.state === "running") return;
    try {
      this.#audio ??= new AudioContext();
      void this.#audio.resume().then(this.#look, this.#look);
    } catch {
      // No sound on this device: what it can do says so.
    }
    this.#look();
  };

  #quiet(): void {
    if (this.#repeating !== null) clearInterval(this.#repeating);
    this.#repeating = null;
  }

  async #holdScreen(): Promise<void> {
    // An HTTP address has no such thing.
    if (!("wakeLock" in navigator)) return;
    if (!this.#keepOn) {
      const held = this.#wake;
      this.#wake = null;
      await held?.release();
      return;
    }
    if (document.visibilityState !== "visible" || this.#asking || (this.#wake && !this.#wake.released)) return;
    this.#asking = true;
    try {
      this.#wake = await navigator.wakeLock.request("screen");
      this.#screenRefused = false;
    } catch {
      this.#screenRefused = true;
    }
    this.#asking = false;
    // The last clock may have been stopped before the device had answered.
    if (this.#wake && !this.#wake.released) await this.#holdScreen();
    this.#look();
  }

  #sound(times: number): void {
    const audio = this.#audio;
    if (audio?.state !== "running") return;
    for (let i = 0; i < times; i++) {
      const tone = audio.createOscillator();
      const level = audio.createGain();
      tone.frequency.value = 880;
      level.gain.value = 0.5;
      tone.connect(level).connect(audio.destination);
      tone.start(audio.currentTime + i * 0.5);
      tone.stop(audio.currentTime + i * 0.5 + 0.25);
    }
  }

  readonly #look = (): void => {
    const now: AlarmAbilities = {
      sound: !("AudioContext" in window) ? "no" : this.#audio?.state === "running" ? "yes" : "touch",
      // A browser on a desk has the function too, and nothing to move.
      vibration: "vibrate" in navigator && matchMedia("(pointer: coarse)").matches,
      notification: notificationState(),
      screen: "wakeLock" in navigator && !this.#screenRefused,
    };
    const before = this.#abilities;
    const keys = ["sound", "vibration", "notification", "screen"] as const;
    if (keys.every((key) => now[key] === before[key])) return;
    this.#abilities = now;
    for (const listener of this.#listeners) listener();
  };
}

export const alarm = new Alarm();

function vibrate(times: number): void {
  if ("vibrate" in navigator) navigator.vibrate(Array.from({ length: times * 2 - 1 }, (_, i) => (i % 2 ? 150 : 400)));
}

function notificationState(): AlarmAbilities["notification"] {
  if (!("Notification" in window) || !("serviceWorker" in navigator)) return "no";
  if (Notification.permission === "granted") return "yes";
  return Notification.permission === "default" && !remembered(ASKED) ? "ask" : "no";
}

/** On phones only a worker may notify; it does nothing else. */
async function registerWorker(): Promise<ServiceWorkerRegistration | null> {
  try {
    return await navigator.serviceWorker.register(WORKER);
  } catch {
    return null;
  }
}

async function notify({ key, title, says, urgent }: Ring): Promise<void> {
  if (notificationState() !== "yes") return;
  const shown = { body: says, tag: key, requireInteraction: urgent, data: { to: window.location.pathname } };
  try {
    await (await registerWorker())?.showNotification(title, shown);
  } catch {
    // Taken back meanwhile: sound and vibration are tried all the same.
  }
}

function remembered(key: string): boolean {
  try {
    return localStorage.getItem(key) !== null;
  } catch {
    return true;
  }
}

function remember(key: string): void {
  try {
    localStorage.setItem(key, "1");
  } catch {
    // A browser that keeps nothing is not asked.
  }
}
