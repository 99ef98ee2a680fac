import * as yup from "yup";

import { day, email, hiddenId, password, slug, text, whole } from "~/kit/forms/fields";

/** What the forms of people and signing in may send. The same schema checks in the browser and on the server. */

const MIN_PASSWORD = 10;

const newPassword = password("Type a password.").min(
  MIN_PASSWORD,
  `Use at least ${MIN_PASSWORD} characters; a few words make a good one.`,
);

export const signInSchema = yup.object({
  signIn: text(120).required("Type your sign-in name."),
  password: password("Type your password."),
  next: text(500),
});

export const passwordSchema = yup.object({
  current: password("Type your present password."),
  password: newPassword,
  again: password("Type it again.").oneOf([yup.ref("password")], "The two are not the same. Type the new one again."),
});

export const addPersonSchema = yup.object({
  name: text(120).required("Type the person's name."),
  signIn: text(120)
    .required("Choose a sign-in name.")
    .matches(/^[a-zA-Z0-9._@-]{2,120}$/, "Use letters, digits, dot, hyphen, underscore or @, at least two."),
  role: yup
    .string()
    .oneOf(["technician", "lead"] as const, "Choose a role.")
    .required("Choose a role."),
  password: newPassword,
});

export const letterheadSchema = yup.object({
  name: text(120).required("Type the firm's name."),
  lines: text(400).test("few", "Four lines at most.", (value) => !value || value.split("\n").length <= 4),
});

export const personSchema = yup.object({ person: hiddenId() });

export const emailSchema = yup.object({
  person: hiddenId(),
  email: email("kim@harbour.example").default(""),
});

export const resetSchema = yup.object({ person: hiddenId(), password: newPassword });

export const grantSchema = yup.object({
  person: hiddenId(),
  kind: slug("licensed-refrigeration").required("Name the authorisation."),
  expiresOn: day("Choose a day, or leave it empty."),
});

export const revokeSchema = yup.object({ person: hiddenId(), authorisation: hiddenId() });

export const requireSchema = yup.object({
  authorisation: slug("licensed-refrigeration").required("Name the authorisation."),
  family: slug("prep-cabinet").required("Choose the family."),
  days: whole(1, 3650).required("Say how long a passed practice counts."),
});

export const requireNoneSchema = requireSchema.pick(["authorisation", "family"]);
