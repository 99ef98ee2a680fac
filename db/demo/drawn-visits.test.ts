import { checkVisit, packVisit } from "../../core/index";
import { allShipped, whole } from "../../core/sheet/testing/shipped";
import { drawnVisit } from "./drawn-visits";

const procedures = allShipped()
  .filter((one) => one.family !== "any")
  .map((one) => whole(one, allShipped()));

it("visits drawn from the shipped procedures can be packed, with what goes its own way on the bench", () => {
  const visits = Array.from({ length: 60 }, (_, seed) => drawnVisit(procedures, seed, { from: 2, to: 8 }, 40));
  for (const visit of visits) {
    const packed = packVisit(visit, { nodeLimit: 50, seed: 1 });
    expect([packed.status, checkVisit(visit, packed)]).toEqual([expect.stringMatching(/optimal|feasible/), []]);
  }
  expect(visits.filter((visit) => visit.jobs.some((job) => job.after)).length).toBeGreaterThan(3);
});
