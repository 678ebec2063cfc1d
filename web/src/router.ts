import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", component: () => import("./pages/Shelf.vue") },
    { path: "/shots/:id", component: () => import("./pages/Desk.vue"), props: true },
    { path: "/work", component: () => import("./pages/Work.vue") },
    { path: "/:rest(.*)*", redirect: "/" },
  ],
});
