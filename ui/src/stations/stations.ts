import type { Component } from "vue";
import { t } from "../words/said";

export interface Station {
  path: string;
  name: string;
  needs: string; // the operation without which it is of no use to somebody
  group: "promise" | "make ready" | "make" | "keep";
  key: string;
  question: string;
  component: () => Promise<Component>;
}

/** A recipe of the flower book, a draft of one, or one that is begun. */
export const recipePaths = ["/book/pages/:page", "/book/drafts/:draft", "/book/new"];

/** Pages beside the stations: what would be if, how a studio is begun, the journal, of a bench, and what is printed of a recipe. */
export const otherPages = [
  { path: "/what-if", component: () => import("./scenes/WhatIf.vue") },
  { path: "/orders/:id/sheet", component: () => import("./orders/HandoverPage.vue") },
  { path: "/journal", component: () => import("../parts/JournalPage.vue") },
  { path: "/beginning/:step", component: () => import("./studio/BeginSteps.vue") },
  { path: "/book/pages/:page/paper", component: () => import("./book/RecipePaper.vue") },
  { path: "/bench/day", component: () => import("./bench/DayPage.vue") },
  { path: "/bench/card/:task", component: () => import("./bench/CardPage.vue") },
];

/** The stations in working order; each answers one question. */
export const stations: Station[] = [
  {
    path: "/orders",
    name: t("Orders"),
    needs: "list-orders",
    group: "promise",
    key: "o",
    question: t("What have we promised, and is it safe?"),
    component: () => import("./OrdersStation.vue"),
  },
  {
    path: "/promise",
    name: t("Promise check"),
    needs: "ask-promise",
    group: "promise",
    key: "a",
    question: t("Can we take this on?"),
    component: () => import("./promise/PromiseStation.vue"),
  },
  {
    path: "/count-up",
    name: t("Count-up"),
    needs: "get-count",
    group: "make ready",
    key: "c",
    question: t("What do we have to make?"),
    component: () => import("./CountStation.vue"),
  },
  {
    path: "/mixing",
    name: t("Mixing"),
    needs: "get-mixing",
    group: "make ready",
    key: "m",
    question: t("What do I weigh?"),
    component: () => import("./MixingStation.vue"),
  },
  {
    path: "/wires",
    name: t("Wires"),
    needs: "get-wires",
    group: "make ready",
    key: "w",
    question: t("What do I cut?"),
    component: () => import("./WiresStation.vue"),
  },
  {
    path: "/plan",
    name: t("Plan"),
    needs: "get-plan",
    group: "make",
    key: "p",
    question: t("Who does what when, and why?"),
    component: () => import("./plan/PlanStation.vue"),
  },
  {
    path: "/bench",
    name: t("Bench"),
    needs: "get-bench",
    group: "make",
    key: "b",
    question: t("What do I do now?"),
    component: () => import("./bench/BenchStation.vue"),
  },
  {
    path: "/drying",
    name: t("Drying room"),
    needs: "get-drying-room",
    group: "make",
    key: "d",
    question: t("What is ready, what frees up, is the air all right?"),
    component: () => import("./drying/DryingStation.vue"),
  },
  {
    path: "/stores",
    name: t("Stores"),
    needs: "get-stores",
    group: "keep",
    key: "s",
    question: t("What do we have, what do we order?"),
    component: () => import("./StoresStation.vue"),
  },
  {
    path: "/book",
    name: t("Flower book"),
    needs: "get-book",
    group: "keep",
    key: "f",
    question: t("How do we make it?"),
    component: () => import("./BookStation.vue"),
  },
  {
    path: "/log",
    name: t("Log"),
    needs: "get-log",
    group: "keep",
    key: "l",
    question: t("What did it really take?"),
    component: () => import("./log/LogStation.vue"),
  },
  {
    path: "/studio",
    name: t("Studio"),
    needs: "write-thing",
    group: "keep",
    key: "u",
    question: t("Who, when, with what?"),
    component: () => import("./studio/StudioStation.vue"),
  },
];
