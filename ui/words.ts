import {
  type AttributeNode,
  createSimpleExpression,
  type ElementNode,
  type InterpolationNode,
  type NodeTransform,
  NodeTypes,
  type TemplateChildNode,
  type TextNode,
} from "@vue/compiler-core";
import type { Plugin } from "vite";
import { flat } from "./src/words/flat";

/**
 * How templates are worded. What stands in a template as text is looked up in the catalogue when it is shown, by
 * its own English words: `of {{ task.quantity }} pieces` becomes `$t("of {quantity} pieces", { quantity: … })`.
 * Text that depends on a number, or stands in a script, says so itself: `t("{n} slot | {n} slots", n)`.
 */

/** The attributes that people read or hear; all others are for the program. */
const read = new Set("label title says aria-label placeholder hint alt suffix more what no-data-text".split(" "));

const lettered = (text: string) => /\p{L}/u.test(text);
/** Vue I18n reads these as its own signs. */
const own = (text: string) => text.replace(/[{}@|]/g, (sign) => `{'${sign}'}`);

/** Names that say how something is shown, not what it is. */
const manner = new Set("join map length value filter at toFixed t $t String Math".split(" "));

/** What an expression is called in a message: by its last name, `mass(p.grams)` is `{grams}`. */
function called(expression: string, taken: Map<string, string>): string {
  const names = expression.replace(/(["'`]).*?\1/gs, "").match(/[A-Za-z_$][\w$]*/g) ?? [];
  const name = names.filter((name) => !manner.has(name)).at(-1) ?? "it";
  let free = name;
  for (let n = 2; taken.has(free) && taken.get(free) !== expression; n++) free = name + n;
  taken.set(free, expression);
  return free;
}

/** Text and what is put into it, up to the next element, as one message. */
function worded(run: (TextNode | InterpolationNode)[]): (TextNode | InterpolationNode)[] {
  if (!run.some((node) => node.type === NodeTypes.TEXT && lettered(node.content))) return run;
  const values = new Map<string, string>();
  const message = run
    .map((node) =>
      node.type === NodeTypes.TEXT
        ? own(node.content.replace(/\s+/g, " "))
        : `{${called("content" in node.content ? String(node.content.content) : "", values)}}`,
    )
    .join("");
  const said = message.trim();
  const named = [...values].map(([name, expression]) => `${JSON.stringify(name)}: (${expression})`).join(", ");
  const loc = run[0].loc;
  const call = `$t(${JSON.stringify(said)}${named && `, { ${named} }`})`;
  const edge = (content: string): TextNode[] => (content ? [{ type: NodeTypes.TEXT, content, loc }] : []);
  return [
    ...edge(message.startsWith(" ") ? " " : ""),
    { type: NodeTypes.INTERPOLATION, content: createSimpleExpression(call, false, loc), loc },
    ...edge(message.endsWith(" ") ? " " : ""),
  ];
}

function bound(prop: AttributeNode): ElementNode["props"][number] {
  const said = prop.value?.content ?? "";
  return {
    type: NodeTypes.DIRECTIVE,
    name: "bind",
    rawName: `:${prop.name}`,
    arg: createSimpleExpression(prop.name, true, prop.loc),
    exp: createSimpleExpression(`$t(${JSON.stringify(own(said))})`, false, prop.loc),
    modifiers: [],
    loc: prop.loc,
  };
}

/** What stands around other nodes: also a branch or a repetition of several. */
const around = new Set([NodeTypes.ROOT, NodeTypes.ELEMENT, NodeTypes.IF_BRANCH, NodeTypes.FOR]);

/**
 * Words what stands in a template. An element's children are worded before any of them is looked at, so that the
 * compiler finds the names in what is put in as it finds all others.
 */
export const wording: NodeTransform = (node) => {
  if (!("children" in node) || !around.has(node.type)) return;
  const children: TemplateChildNode[] = [];
  let run: (TextNode | InterpolationNode)[] = [];
  const end = () => (children.push(...worded(run)), (run = []));
  for (const child of node.children as TemplateChildNode[]) {
    if (child.type === NodeTypes.TEXT || child.type === NodeTypes.INTERPOLATION) {
      run.push(child);
      continue;
    }
    end();
    children.push(child);
    if (child.type === NodeTypes.ELEMENT)
      child.props = child.props.map((p) =>
        p.type === NodeTypes.ATTRIBUTE && read.has(p.name) && p.value && lettered(p.value.content) ? bound(p) : p,
      );
  }
  end();
  node.children.splice(0, node.children.length, ...(children as never[]));
};

type Piece = { type: string } & Record<string, unknown>;
const pieces = (of: Piece): Piece[] =>
  Object.values(of)
    .flat()
    .filter((x): x is Piece => typeof (x as Piece | null)?.type === "string");

/** Whether something is the function that looks words up: `t`, `_ctx.$t`, `_unref(t)`. */
function looksUp(callee: Piece): boolean {
  if (callee.type === "Identifier") return callee.name === "t";
  if (callee.type === "MemberExpression") return looksUp({ ...(callee.property as Piece), name: nameOf(callee) });
  return callee.type === "CallExpression" && (callee.arguments as Piece[]).some(looksUp);
}
const nameOf = (member: Piece) => String((member.property as Piece).name).replace("$", "");

/** The texts that an expression can be: a text, or one of two. */
function* texts(of: Piece | undefined): Generator<string> {
  if (of?.type === "Literal" && typeof of.value === "string") yield of.value;
  if (of?.type === "ConditionalExpression") {
    yield* texts(of.consequent as Piece);
    yield* texts(of.alternate as Piece);
  }
}

/** Every message that a program looks up. */
function* messages(of: Piece): Generator<string> {
  if (of.type === "CallExpression" && looksUp(of.callee as Piece)) yield* texts((of.arguments as Piece[])[0]);
  for (const piece of pieces(of)) yield* messages(piece);
}

/** Gathers every message that is looked up in what is built into the catalogue, in English: a file beside the application. */
export function catalogue(file: string, codes: object, refusals: string[]): Plugin {
  const said = new Map([...flat(codes), ...refusals.map((r): [string, string] => [r, r])]);
  return {
    name: "catalogue",
    apply: "build",
    enforce: "post",
    transform(code, id) {
      if (id.includes("/node_modules/") || id.includes("\0") || !/\.(ts|vue)(\?.*)?$/.test(id) || /type=style/.test(id))
        return;
      for (const message of messages(this.parse(code) as unknown as Piece))
        if (!said.has(message)) said.set(message, message);
    },
    generateBundle() {
      const all = [...said].sort(([a], [b]) => (a < b ? -1 : 1));
      const is = JSON.stringify({ language: "en", words: Object.fromEntries(all) }, null, 2) + "\n";
      this.emitFile({ type: "asset", fileName: file, source: is });
    },
  };
}
