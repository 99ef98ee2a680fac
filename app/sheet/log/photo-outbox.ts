import Dexie, { type EntityTable } from "dexie";

interface WaitingPhoto {
  id: string;
  sheetId: string;
  personId: string;
  bytes: Blob;
  /** Set when the server refused it for good. */
  refusal: string | null;
}

const RETRY_MS = 15_000;

/**
 * Pictures on their way to the server, kept in the browser's database until they have arrived. Their entries go by
 * themselves: a record that knows of a picture which is not there yet says so.
 */
class PhotoOutbox {
  #db: (Dexie & { photos: EntityTable<WaitingPhoto, "id"> }) | null = null;
  #waiting = new Map<string, WaitingPhoto>();
  #personId: string | null = null;
  #sending = false;
  #count = 0;
  #listeners = new Set<() => void>();
  #timer: ReturnType<typeof setTimeout> | null = null;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  /** How many pictures are not sent yet. */
  readonly snapshot = (): number => this.#count;

  async start(personId: string): Promise<void> {
    this.#personId = personId;
    try {
      for (const photo of await this.#database().photos.toArray()) this.#waiting.set(photo.id, photo);
    } catch {
      // Without a database pictures are sent, but not kept over a reload.
    }
    this.#publish();
    window.addEventListener("online", this.#now);
    void this.#send();
  }

  stop(): void {
    this.#personId = null;
    window.removeEventListener("online", this.#now);
    if (this.#timer) clearTimeout(this.#timer);
  }

  add(photo: { id: string; sheetId: string; bytes: Blob }): void {
    const entry = { ...photo, personId: this.#personId ?? "", refusal: null };
    this.#waiting.set(photo.id, entry);
    this.#publish();
    void this.#database()
      .photos.put(entry)
      .catch(() => undefined)
      .then(() => this.#send());
  }

  readonly #now = (): void => void this.#send();

  async #send(): Promise<void> {
    if (this.#sending || this.#personId === null) return;
    this.#sending = true;
    let lost = false;
    for (const photo of [...this.#waiting.values()].filter(
      (one) => one.personId === this.#personId && one.refusal === null,
    )) {
      const arrived = await this.#post(photo);
      if (arrived === null) {
        lost = true;
        break;
      }
      this.#waiting.delete(photo.id);
      await this.#database()
        .photos.delete(photo.id)
        .catch(() => undefined);
      this.#publish();
    }
    this.#sending = false;
    if (lost) this.#timer = setTimeout(() => void this.#send(), RETRY_MS);
  }

  /** Whether it needs no more sending: stored, or no picture at all; null when it must be tried again. */
  async #post(photo: WaitingPhoto): Promise<boolean | null> {
    try {
      const response = await fetch(`/api/sheets/${photo.sheetId}/photos?id=${photo.id}`, {
        method: "POST",
        headers: { "Content-Type": "application/octet-stream" },
        body: photo.bytes,
        signal: AbortSignal.timeout(60_000),
      });
      return response.ok || response.status === 413 || response.status === 422 ? response.ok : null;
    } catch {
      return null;
    }
  }

  #publish(): void {
    this.#count = this.#waiting.size;
    for (const listener of this.#listeners) listener();
  }

  #database(): Dexie & { photos: EntityTable<WaitingPhoto, "id"> } {
    if (!this.#db) {
      const db = new Dexie("humble-hound-photos") as Dexie & { photos: EntityTable<WaitingPhoto, "id"> };
      db.version(1).stores({ photos: "id" });
      this.#db = db;
    }
    return this.#db;
  }
}

export const photoOutbox = new PhotoOutbox();
