export { expect, type Page, test } from "@playwright/test";
