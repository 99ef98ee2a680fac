import { hash, verify } from "@node-rs/argon2";

/** OWASP Password Storage Cheat Sheet: Argon2id, 19 MiB, 2 passes, 1 lane (values from memory). */
/** The library numbers Argon2id as 2. */
const ARGON2ID = 2;
const OPTIONS = { algorithm: ARGON2ID, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
  return hash(password, OPTIONS);
}

export async function passwordMatches(stored: string, password: string): Promise<boolean> {
  try {
    return await verify(stored, password);
  } catch {
    return false; // a hash of another form never matches
  }
}

let decoy: Promise<string> | null = null;

/** Takes as long as checking a real password, so that timing does not tell which sign-in names exist. */
export async function pretendToCheck(password: string): Promise<void> {
  decoy ??= hashPassword("decoy for names that do not exist");
  await passwordMatches(await decoy, password);
}
