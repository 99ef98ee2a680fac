import type { DrawingName } from "@core";
import type { ReactNode } from "react";

import {
  AirPath,
  AugerFeeler,
  CarriageRail,
  GasketDart,
  HeadSlots,
  HingeSlot,
  PlateLatches,
  StrainerFlange,
  StripAndRod,
  WiperLip,
} from "./families-1-10";
import {
  BeltSplit,
  BroomCore,
  DrainTube,
  FreezerRings,
  HeadGuide,
  JetDuct,
  MillDoor,
  TorchCarbon,
  WellRings,
} from "./families-11-19";

/** Schematics by name: what each shows in words, and its picture. */
export const DRAWINGS: Record<DrawingName, { words: string; Drawing: () => ReactNode }> = {
  "strainer-flange": {
    words: "The screen stands on the lip in the housing; the groove on the back of the cover takes its other end.",
    Drawing: StrainerFlange,
  },
  "plate-latches": {
    words:
      "Guide pins into their holes, then push: two clicks, and the plate sits. One click: look at pins and O-ring.",
    Drawing: PlateLatches,
  },
  "carriage-rail": {
    words: "Oil on the rail that the carriage runs on; grease on belts, gears, worm and shaft alone, against noise.",
    Drawing: CarriageRail,
  },
  "auger-feeler": {
    words: "The feeler goes between the auger and its bearing, at the top; not between auger and cylinder wall.",
    Drawing: AugerFeeler,
  },
  "head-slots": {
    words: "A new head fits any slot. One that was used goes back where its own colours are, and nowhere else.",
    Drawing: HeadSlots,
  },
  "gasket-dart": {
    words: "The gasket's dart goes into the retainer, with thumb and fingers: corners first, then the sides.",
    Drawing: GasketDart,
  },
  "air-path": {
    words: "The fins stand upright: brush downward, along them, never across. Air needs the clearance behind them.",
    Drawing: AirPath,
  },
  "strip-and-rod": {
    words:
      "The strip hangs above the rod. Its left stretch, hidden by the maintenance cartridge, comes first; its right end in the parking station last.",
    Drawing: StripAndRod,
  },
  "wiper-lip": { words: "The wiper's lip faces outward, against the chips, and lies on all along.", Drawing: WiperLip },
  "hinge-slot": {
    words: "The hinge slot is where the chamber pivots beside the heater: liquid and salt stay in it.",
    Drawing: HingeSlot,
  },
  "drain-tube": {
    words:
      "The tube's upper end comes out of its clips and points down into the container: the reservoir runs empty. Up again before it is filled.",
    Drawing: DrainTube,
  },
  "well-rings": {
    words:
      "Three rings, one in the other, each held by its gear. Gears out first, then the rings; back goes the inner ring first, the gears after all three.",
    Drawing: WellRings,
  },
  "torch-carbon": {
    words: "Carbon sits in two places: at the top end of the outer tube and at the tip of the injector.",
    Drawing: TorchCarbon,
  },
  "jet-duct": {
    words:
      "The plate lies in the housing, its lip up and its notch at the narrow end; the cover slides on, and its holes lie over those of the plate. All holes face the belt.",
    Drawing: JetDuct,
  },
  "freezer-rings": {
    words:
      "The draw valve has three O-rings; the pump shaft one large and two small. At the refit: a thin film on rings and shafts, none on driven ends.",
    Drawing: FreezerRings,
  },
  "head-guide": {
    words:
      "The guide sits on the cartridges' posts; the stick goes into its lower part, home to the stop, unused side to the head.",
    Drawing: HeadGuide,
  },
  "belt-split": {
    words:
      "Pulling clamps hold the upper strand, slack stands in a tent between them; the lower strand is clamped to its support plate before the pulling clamps are let go.",
    Drawing: BeltSplit,
  },
  "broom-core": {
    words: "The hexagon hole of the broom's core faces inward, to the drive.",
    Drawing: BroomCore,
  },
  "mill-door": {
    words:
      "One hand opens the door, the other guides it all the way. A crack begins at its rear side: water runs back and down behind the mill.",
    Drawing: MillDoor,
  },
};
