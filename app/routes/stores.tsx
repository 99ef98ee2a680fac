import { NotYet } from "~/components/not-yet";

export const meta = () => [{ title: "Stores – Humble Hound" }];

export function loader() {
  return null;
}

export default function Stores() {
  return (
    <NotYet
      place="Stores"
      will={[
        "what each van and the depot hold, and when it runs out",
        "what to load for a day, and what is missing",
        "kits, orders and lots with their expiry",
      ]}
      meanwhile="Until then, each duty lists the materials and parts it takes, and records keep what was used."
    />
  );
}
