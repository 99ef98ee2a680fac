export interface Tour {
  optimum: number;
  distance: "euclidean" | "geographical";
  points: [number, number][];
}

const points = (text: string): [number, number][] =>
  text.split(";").map((one) => one.trim().split(" ").map(Number) as [number, number]);

/**
 * Tours of the public library TSPLIB (G. Reinelt, ORSA Journal on Computing 3, 1991) with their published optimal lengths;
 * coordinates and lengths from memory, and a wrong coordinate would hardly leave the published length the best.
 */
export const TOURS = {
  burma14: {
    optimum: 3323,
    distance: "geographical",
    points: points(
      "16.47 96.10; 16.47 94.44; 20.09 92.54; 22.39 93.37; 25.23 97.24; 22.00 96.05; 20.47 97.02; 17.20 96.29; 16.30 97.38; 14.05 98.12; 16.53 97.38; 21.52 95.59; 19.41 97.13; 20.09 94.55",
    ),
  },
  ulysses16: {
    optimum: 6859,
    distance: "geographical",
    points: points(
      "38.24 20.42; 39.57 26.15; 40.56 25.32; 36.26 23.12; 33.48 10.54; 37.56 12.19; 38.42 13.11; 37.52 20.44; 41.23 9.10; 41.17 13.05; 36.08 -5.21; 38.47 15.13; 38.15 15.35; 37.51 15.17; 35.49 14.32; 39.36 19.56",
    ),
  },
  eil51: {
    optimum: 426,
    distance: "euclidean",
    points: points(
      "37 52; 49 49; 52 64; 20 26; 40 30; 21 47; 17 63; 31 62; 52 33; 51 21; 42 41; 31 32; 5 25; 12 42; 36 16; 52 41; 27 23; 17 33; 13 13; 57 58; 62 42; 42 57; 16 57; 8 52; 7 38; 27 68; 30 48; 43 67; 58 48; 58 27; 37 69; 38 46; 46 10; 61 33; 62 63; 63 69; 32 22; 45 35; 59 15; 5 6; 10 17; 21 10; 5 64; 30 15; 39 10; 32 39; 25 32; 25 55; 48 28; 56 37; 30 40",
    ),
  },
  berlin52: {
    optimum: 7542,
    distance: "euclidean",
    points: points(
      "565 575; 25 185; 345 750; 945 685; 845 655; 880 660; 25 230; 525 1000; 580 1175; 650 1130; 1605 620; 1220 580; 1465 200; 1530 5; 845 680; 725 370; 145 665; 415 635; 510 875; 560 365; 300 465; 520 585; 480 415; 835 625; 975 580; 1215 245; 1320 315; 1250 400; 660 180; 410 250; 420 555; 575 665; 1150 1160; 700 580; 685 595; 685 610; 770 610; 795 645; 720 635; 760 650; 475 960; 95 260; 875 920; 700 500; 555 815; 830 485; 1170 65; 830 610; 605 625; 595 360; 1340 725; 1740 245",
    ),
  },
} satisfies Record<string, Tour>;

/** Rounded to the nearest whole number, as the library defines it. */
export function euclidean(a: [number, number], b: [number, number]): number {
  return Math.round(Math.hypot(a[0] - b[0], a[1] - b[1]));
}

/** Degrees and minutes on a sphere of 6378.388 km, as the library defines it. */
export function geographical(a: [number, number], b: [number, number]): number {
  const q1 = Math.cos(radians(a[1]) - radians(b[1]));
  const q2 = Math.cos(radians(a[0]) - radians(b[0]));
  const q3 = Math.cos(radians(a[0]) + radians(b[0]));
  return Math.trunc(6378.388 * Math.acos(0.5 * ((1 + q1) * q2 - (1 - q1) * q3)) + 1);
}

function radians(coordinate: number): number {
  const degrees = Math.trunc(coordinate);
  // The library's own value of pi.
  return (3.141592 * (degrees + (5 * (coordinate - degrees)) / 3)) / 180;
}
