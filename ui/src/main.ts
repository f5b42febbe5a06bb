import "@fontsource-variable/fraunces/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import "vuetify/styles/core";
import "./theme/theme.css";

import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";
import { createRouter, createWebHistory } from "vue-router";

import App from "./App.vue";
import { listen } from "./api/live";
import { recipePaths, stations } from "./stations/stations";
import { vuetify } from "./theme/vuetify";
import { i18n } from "./words";

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", redirect: "/orders" },
    ...stations.map((station) => ({ path: station.path, component: station.component })),
    ...recipePaths.map((path) => ({ path, component: () => import("./stations/book/RecipePage.vue") })),
    { path: "/:elsewhere(.*)*", redirect: "/orders" },
  ],
});
const queryClient = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: 2 } } });

listen(queryClient);
createApp(App).use(router).use(vuetify).use(i18n).use(VueQueryPlugin, { queryClient }).mount("#app");
