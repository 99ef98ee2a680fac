import { tagOfCode } from "./tag-of-code";

it.each([
  ["https://hound.example/t/HH-1001", "HH-1001"],
  ["http://10.0.0.5:7420/t/HH%2D7?x=1", "HH-7"],
  ["https://hound.example/t/%E0%A4%A", "https://hound.example/t/%E0%A4%A"],
  ["https://maker.example/serial/77", "https://maker.example/serial/77"],
  [" FI2-00417\n", "FI2-00417"],
])("%s: %s", (code, tag) => expect(tagOfCode(code)).toBe(tag));
