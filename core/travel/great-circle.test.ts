import { greatCircleKm, roadMinutes } from "./great-circle";

// A nautical mile is a minute of latitude, 1.852 km by definition; on a sphere of mean radius it comes to 1.853 km.
it("measures degrees along a meridian and the equator alike, and over the pole", () => {
  expect(greatCircleKm({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 1 })).toBeCloseTo(60 * 1.8532, 2);
  expect(greatCircleKm({ latitude: 10, longitude: 5 }, { latitude: 11, longitude: 5 })).toBeCloseTo(60 * 1.8532, 2);
  expect(greatCircleKm({ latitude: 80, longitude: 0 }, { latitude: 80, longitude: 180 })).toBeCloseTo(20 * 111.195, 1);
});

// Worked example of an aviation formulary: 33°57'N 118°24'W to 40°38'N 73°47'W is 2144 nautical miles (from memory).
it("agrees with a published worked example", () => {
  const km = greatCircleKm(
    { latitude: 33 + 57 / 60, longitude: -(118 + 24 / 60) },
    { latitude: 40 + 38 / 60, longitude: -(73 + 47 / 60) },
  );
  expect(Math.abs(km - 2144 * 1.8532)).toBeLessThan(5);
});

it("rounds minutes on the road up and refuses a speed of zero", () => {
  const [a, b] = [
    { latitude: 0, longitude: 0 },
    { latitude: 0, longitude: 0.1 },
  ];
  expect(roadMinutes(a, b, 1.3, 50)).toBe(18);
  expect(roadMinutes(a, a, 1.3, 50)).toBe(0);
  expect(() => roadMinutes(a, b, 1.3, 0)).toThrow(/greater than zero/);
});
