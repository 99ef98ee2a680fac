import Dexie, { type EntityTable } from "dexie";

interface WaitingPhoto {
  id: string;
  sheetId: string;
  personId: string;
  bytes: Blob;
  /** Set when the server refused it for good. */
  refusal: string | null;
}

/** How many pictures are not sent yet, and those that were not taken, with the reason. */
export interface PhotoOutboxState {
  waiting: number;
  refused: readonly { id: string; refusal: string }[];
}

const EMPTY: PhotoOutboxState = { waiting: 0, refused: [] };
const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 15_000;
/** Not what may be different soon: the sheet, or the entry that names the picture, may still be on its way. */
const REFUSED = new Set([403, 413, 422]);

/**
 * Pictures on their way to the server, kept in the browser's database until they have arrived. Their entries go by
 * themselves: a record that knows of a picture which is not there yet says so.
 */
class PhotoOutbox {
  #db: (Dexie & { photos: EntityTable<WaitingPhoto, "id"> }) | null = null;
  #waiting = new Map<string, WaitingPhoto>();
  readonly #urls = new Map<string, string>();
  #personId: string | null = null;
  #sending = false;
  #retryMs = FIRST_RETRY_MS;
  #state: PhotoOutboxState = EMPTY;
  #listeners = new Set<() => void>();
  #timer: ReturnType<typeof setTimeout> | null = null;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly snapshot = (): PhotoOutboxState => this.#state;
  readonly serverSnapshot = (): PhotoOutboxState => EMPTY;

  async start(personId: string): Promise<void> {
    this.#personId = personId;
    try {
      for (const photo of await this.#database().photos.toArray()) this.#waiting.set(photo.id, photo);
    } catch {
      // Without a database pictures are sent, but not kept over a reload.
    }
    this.#publish();
    window.addEventListener("online", this.sendNow);
    void this.#send();
  }

  stop(): void {
    this.#personId = null;
    window.removeEventListener("online", this.sendNow);
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

  /** Where the browser finds a picture that is not at the server yet; null when it is, or was taken elsewhere. */
  waitingUrl(id: string): string | null {
    const photo = this.#waiting.get(id);
    if (!photo) return null;
    const url = this.#urls.get(id) ?? URL.createObjectURL(photo.bytes);
    this.#urls.set(id, url);
    return url;
  }

  /** The entry of a picture has arrived: it need not wait for its turn. */
  readonly sendNow = (): void => void this.#send();

  async #send(): Promise<void> {
    if (this.#sending || this.#personId === null) return;
    this.#sending = true;
    if (this.#timer) clearTimeout(this.#timer);
    let left = false;
    for (const photo of [...this.#waiting.values()].filter(
      (one) => one.personId === this.#personId && one.refusal === null,
    )) {
      const fate = await this.#post(photo);
      if (fate === "stored") await this.#drop(photo.id);
      else if (typeof fate === "object") await this.#refuse({ ...photo, refusal: fate.refusal });
      else left = true;
      // Without a connection none of the others gets through; what is wrong with one is no matter of the others.
      if (fate === "unreachable") break;
    }
    this.#sending = false;
    if (left) {
      // The entry that names a picture comes by another way, and mostly a moment later.
      this.#timer = setTimeout(() => void this.#send(), this.#retryMs);
      this.#retryMs = Math.min(LONGEST_RETRY_MS, 2 * this.#retryMs);
    } else this.#retryMs = FIRST_RETRY_MS;
  }

  /** The person has read why a picture was not taken. */
  dismiss(id: string): void {
    void this.#drop(id);
  }

  async #drop(id: string): Promise<void> {
    this.#waiting.delete(id);
    this.#publish();
    const url = this.#urls.get(id);
    if (url !== undefined) URL.revokeObjectURL(url);
    this.#urls.delete(id);
    await this.#database()
      .photos.delete(id)
      .catch(() => undefined);
  }

  /** It is kept on the device until the person has read why. */
  async #refuse(photo: WaitingPhoto): Promise<void> {
    this.#waiting.set(photo.id, photo);
    this.#publish();
    await this.#database()
      .photos.put(photo)
      .catch(() => undefined);
  }

  /** `later`: this one is tried again by itself, after the others. */
  async #post(photo: WaitingPhoto): Promise<"stored" | "later" | "unreachable" | { refusal: string }> {
    try {
      const response = await fetch(`/api/sheets/${photo.sheetId}/photos?id=${photo.id}`, {
        method: "POST",
        headers: { "Content-Type": "application/octet-stream" },
        body: photo.bytes,
        signal: AbortSignal.timeout(60_000),
      });
      if (response.ok) return "stored";
      if (!REFUSED.has(response.status)) return "later";
      const answer = (await response.json().catch(() => null)) as { message?: string } | null;
      // Only a refusal in so many words counts as one.
      return answer?.message ? { refusal: answer.message } : "later";
    } catch {
      return "unreachable";
    }
  }

  #publish(): void {
    const all = [...this.#waiting.values()];
    this.#state = {
      waiting: all.filter((one) => one.refusal === null).length,
      // Who took it reads why, and nobody else puts it away.
      refused: all.flatMap(({ id, refusal, personId }) =>
        refusal === null || personId !== this.#personId ? [] : [{ id, refusal }],
      ),
    };
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
