import { expect, test as base } from "@playwright/test";

/** A test whose pages throw nothing that nobody catches: what the browser alone hears of is a fault all the same. */
export const test = base.extend<{ noPageErrors: undefined }>({
  noPageErrors: [
    async ({ context }, use) => {
      const errors: string[] = [];
      context.on("weberror", (error) => errors.push(`${error.page()?.url() ?? ""}: ${error.error().message}`));
      await use(undefined);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});
