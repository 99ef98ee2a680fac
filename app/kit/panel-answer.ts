export type PanelAnswer = { form: string; result: unknown; ask: string | null } | null;
