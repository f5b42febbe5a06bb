import { ref } from "vue";

/** A newer application that waits to be let in; nothing where there is none. */
export const newer = ref<ServiceWorker>();

/** Keeps the application on the tablet, once it is idle, where the browser allows that. */
export function install(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  const register = async () => {
    const registration = await navigator.serviceWorker.register("/worker.js");
    const waits = () => {
      if (registration.waiting && navigator.serviceWorker.controller) newer.value = registration.waiting;
    };
    waits();
    registration.addEventListener("updatefound", () => registration.installing?.addEventListener("statechange", waits));
  };
  addEventListener("load", () => setTimeout(() => void register().catch(() => undefined), 3000));
}

/** Lets a newer application in. */
export function letIn(): void {
  navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), { once: true });
  newer.value?.postMessage("let in");
}
