import "@fontsource-variable/fraunces/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import "vuetify/styles/core";
import "./theme/theme.css";

import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";
import { createRouter, createWebHistory } from "vue-router";

import App from "./App.vue";
import { Refused, type Schemas } from "./api/client";
import { install } from "./api/installed";
import { listen } from "./api/live";
import { beginSending } from "./api/outbox";
import { otherPages, recipePaths, stations } from "./stations/stations";
import { giveBack } from "./parts/focus";
import { follow } from "./theme/light";
import { vuetify } from "./theme/vuetify";
import { i18n } from "./words/said";

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", redirect: "/orders" },
    ...stations.map((station) => ({ path: station.path, component: station.component })),
    ...otherPages,
    ...recipePaths.map((path) => ({ path, component: () => import("./stations/book/RecipePage.vue") })),
    { path: "/:elsewhere(.*)*", redirect: "/orders" },
  ],
});
const queryClient = new QueryClient({
  // Without a connection everything is tried all the same: a tablet answers by what it keeps itself.
  defaultOptions: {
    queries: {
      staleTime: Infinity,
      // what was refused in words is no better for being asked again
      retry: (times, error) => times < 2 && !(error instanceof Refused && error.status >= 400 && error.status < 500),
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

follow();
giveBack();
listen(queryClient);
install();
beginSending(
  () => queryClient.getQueryData<Schemas["StudioView"]>(["studio"])?.standing === true,
  () => void queryClient.invalidateQueries({ queryKey: ["bench"] }),
);
createApp(App).use(router).use(vuetify).use(i18n).use(VueQueryPlugin, { queryClient }).mount("#app");
