import type { Route } from "../+types/book.route";

export type Data = Route.ComponentProps["loaderData"];
