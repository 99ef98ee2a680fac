import { NotYet } from "~/components/not-yet";

export const meta = () => [{ title: "Ahead – Humble Hound" }];

export function loader() {
  return null;
}

export default function Ahead() {
  return (
    <NotYet
      place="Ahead"
      will={[
        "every site's duties on one stretched line of time, from overdue to a year out",
        "hands-on hours and parts that a span of it takes",
        "the whole year's work, levelled",
      ]}
      meanwhile="Until then, a machine's page lists its next duties with their days."
    />
  );
}
