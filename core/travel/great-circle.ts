import { requireRecord } from "../inputs";
import { requireFinite, requireNotNegative, requirePositive } from "../numbers";

/** Mean radius of the earth, km (International Union of Geodesy and Geophysics, R1; from memory). */
const EARTH_KM = 6371.0088;

export interface Position {
  latitude: number;
  longitude: number;
}

/**
 * Distance between two positions over the sphere, km (haversine formula: R. Sinnott, Sky and Telescope 68, 1984).
 *
 * @throws CoreError for a position that is not a number
 * @example greatCircleKm({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 1 }) // => 111.195…
 */
export function greatCircleKm(a: Position, b: Position): number {
  const radians = (degrees: number, path: string): number => (requireFinite(degrees, path) * Math.PI) / 180;
  const [lat1, lat2] = [
    radians(requireRecord(a, "a").latitude, "a.latitude"),
    radians(requireRecord(b, "b").latitude, "b.latitude"),
  ];
  const dLat = lat2 - lat1;
  const dLon = radians(b.longitude, "b.longitude") - radians(a.longitude, "a.longitude");
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(lat1) * Math.cos(lat2) * Math.sin(dLon / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Minutes on the road for want of better knowledge: the direct way times a detour factor, at a mean speed. Rounded up. */
export function roadMinutes(a: Position, b: Position, detourFactor: number, kmPerHour: number): number {
  requirePositive(kmPerHour, "kmPerHour");
  const km = greatCircleKm(a, b) * requireNotNegative(detourFactor, "detourFactor");
  return Math.max(0, Math.ceil((km / kmPerHour) * 60 - 1e-9));
}
