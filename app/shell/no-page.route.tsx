/** Any address that is no page. */
export function loader(): never {
  throw new Response("This page does not exist.", { status: 404 });
}

export function action(): never {
  throw new Response("This page does not exist.", { status: 404 });
}

export default function NoPage() {
  return null;
}
