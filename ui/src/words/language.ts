import { answered, client } from "../api/client";
import { remember, remembered } from "./said";

/** Speaks a language of the studio's from now on: where that is another than before, or changed, the page is read anew. */
export async function learn(name: string | undefined) {
  const words = name && (await answered(client.GET("/api/words/{language}", { params: { path: { language: name } } })));
  const is = words ? JSON.stringify(words) : undefined;
  if (is === remembered()) return;
  remember(is);
  location.reload();
}
