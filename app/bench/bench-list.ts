/** The calculators of the Bench, in the order they are shown. */
export const BENCH = [
  ["dilution", "Dilution", "Stock and water, with the strength the bottle has today"],
  ["parts", "Parts", "A mixture by parts"],
  ["additive", "Additive", "A fixed amount in each tank"],
  ["compatibility", "May they meet?", "Two products, one after the other"],
  ["tightening", "Tightening order", "Bolts crosswise"],
  ["belt-time", "Belt time", "Stopwatch against the dial"],
  ["battery", "Battery", "Specific gravity, corrected for temperature"],
  ["strainer", "Strainer", "Pressure drop and the flow that is left"],
  ["polish-mark", "Polish mark", "Which way to turn the knob"],
  ["check-fluid", "Check fluid", "Results in standard deviations of their lot"],
  ["control-chart", "Control chart", "Intensity, background, check fluids"],
  ["checks", "Order of checks", "Cheapest way to the fault"],
] as const;
export type BenchTool = (typeof BENCH)[number][0];
