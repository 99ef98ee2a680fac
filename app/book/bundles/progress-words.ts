/** How far long work is: in its own words, or by the records that it goes through. */
export const progressWords = ({ message, done, total }: { message: string; done: number; total: number }): string =>
  message || `${done.toLocaleString("en")} of ${total.toLocaleString("en")} records`;
