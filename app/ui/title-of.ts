/** A page's title from its data; the plain words where there is none, as on an error page. */
export function titleOf<Data>(data: Data | undefined, title: (data: Data) => string, otherwise: string): string {
  return `${data === undefined ? otherwise : title(data)} – Humble Hound`;
}
