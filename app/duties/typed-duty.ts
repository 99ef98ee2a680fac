import type { Lead } from "@core";

import type { DutySettings } from "./duties.server";
import { type DutyForm, leadOf, rowOf, triggerOf } from "./duty-schema";
import { sameIntervals } from "./intervals";

/** A duty as the form sets it; what the form does not show stays as it was. */
export function settingsOf(form: DutyForm, old: DutySettings): DutySettings {
  const notice = leadOf(form.noticeDays, form.noticePercent);
  const warning = leadOf(form.warningDays, form.warningPercent);
  const intervals = {
    triggers: form.triggers.map(triggerOf),
    ...(form.factor && form.factor !== 1 ? { intervalFactor: form.factor } : {}),
  };
  return {
    title: form.title,
    who: form.who,
    authorisation: form.authorisation ?? null,
    minutes: form.minutes,
    startOn: form.startOn,
    hardStop: form.hardStop,
    active: form.active,
    rules: {
      ...intervals,
      ...(notice ? { notice } : {}),
      ...(warning ? { warning } : {}),
      ...(form.tuneLeast || form.tuneMost
        ? {
            tuning: {
              ...(form.tuneLeast ? { least: form.tuneLeast } : {}),
              ...(form.tuneMost ? { most: form.tuneMost } : {}),
            },
          }
        : {}),
      // What findings tuned stays known as that, until the intervals are set by hand.
      ...(old.rules.given && sameIntervals(old.rules, intervals) ? { given: old.rules.given } : {}),
      ...(form.covers.length > 0 ? { covers: form.covers } : {}),
      ...(form.idleDays ? { idleDays: form.idleDays } : {}),
      ...(form.emitsEvent
        ? { emits: [{ event: form.emitsEvent, on: form.emitsOn }, ...(old.rules.emits ?? []).slice(1)] }
        : {}),
      ...(form.readyBy ? { readyBy: form.readyBy } : {}),
      ...(form.notUsedHours || form.notUsedBefore
        ? {
            notUntil: {
              ...(form.notUsedHours ? { hours: form.notUsedHours } : {}),
              ...(form.notUsedBefore ? { done: form.notUsedBefore } : {}),
            },
          }
        : {}),
    },
  };
}

const percent = (lead: Lead | undefined): number | "" =>
  lead?.fraction === undefined ? "" : Math.round(lead.fraction * 100);

/** What is in force, as the form has it. */
export function typedOf(settings: DutySettings) {
  const { notice, warning, intervalFactor, tuning, covers, idleDays, emits, readyBy, notUntil, triggers } =
    settings.rules;
  return {
    title: settings.title,
    who: settings.who,
    authorisation: settings.authorisation ?? "",
    minutes: settings.minutes,
    startOn: settings.startOn,
    hardStop: settings.hardStop,
    active: settings.active,
    triggers: triggers.map(rowOf),
    factor: intervalFactor ?? "",
    tuneLeast: tuning?.least ?? "",
    tuneMost: tuning?.most ?? "",
    noticeDays: notice?.days ?? "",
    noticePercent: percent(notice),
    warningDays: warning?.days ?? "",
    warningPercent: percent(warning),
    idleDays: idleDays ?? "",
    covers: covers ?? [],
    emitsEvent: emits?.[0]?.event ?? "",
    emitsOn: emits?.[0]?.on ?? "same-day",
    readyBy: readyBy ?? "",
    notUsedHours: notUntil?.hours ?? "",
    notUsedBefore: notUntil?.done ?? "",
    reason: "",
  };
}
