import { useState } from "react";

import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Day } from "~/ui/day";
import { Table } from "~/ui/table";

/**
 * Says, with what a form sends, what it was filled from; and shows what somebody else has changed since, beside what was
 * typed here. Sent again after that, it says that theirs was read.
 */
export function Seen({
  seen,
  answer,
  form,
  row,
}: {
  seen: string;
  answer: FormAnswer | null | undefined;
  form: string;
  row?: readonly [field: string, value: string];
}) {
  // What comes anew while the form is open is not what it was filled from.
  const [first] = useState(seen);
  const { meanwhile } = answerTo(answer, form, row);
  return (
    <>
      <input type="hidden" name="seen" value={meanwhile?.seen ?? first} />
      {meanwhile && (
        <Table caption="What differs" panel regionClass="my-3" className="text-sm">
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">
                {meanwhile.by === "" ? "Now" : `${meanwhile.by}'s`}
                {meanwhile.at && (
                  <>
                    ,{" "}
                    <span className="whitespace-nowrap">
                      <Day at={meanwhile.at} />
                    </span>
                  </>
                )}
              </th>
              <th scope="col">Yours</th>
            </tr>
          </thead>
          <tbody>
            {meanwhile.differ.map((one) => (
              <tr key={one.what}>
                <th scope="row">{one.what}</th>
                <td className="whitespace-pre-line wrap-break-word">{one.theirs}</td>
                <td className="whitespace-pre-line wrap-break-word">{one.yours}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}
