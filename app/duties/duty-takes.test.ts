import { dutyTakes } from "./duty-takes";
import { OWN_DUTY } from "./general-procedures";

it("takes what its procedure takes, hands and waits apart", () => {
  expect(dutyTakes({ procedureId: "oven", minutes: 245 }, { handsOn: 65, waiting: 180 })).toEqual({
    hands: 65,
    waits: 180,
  });
});

it("takes what somebody has set when it is of the firm's own making, or its procedure is not known", () => {
  expect(dutyTakes({ procedureId: OWN_DUTY, minutes: 25 }, { handsOn: 10, waiting: 5 })).toEqual({
    hands: 25,
    waits: 0,
  });
  expect(dutyTakes({ procedureId: "gone", minutes: 40 }, undefined)).toEqual({ hands: 40, waits: 0 });
});
