<script setup lang="ts">
import { onMounted } from "vue";
import JobList from "../jobs/JobList.vue";
import KeptList from "../jobs/KeptList.vue";
import MachineList from "../jobs/MachineList.vue";
import NoticeWishes from "../jobs/NoticeWishes.vue";
import PresetList from "../jobs/PresetList.vue";
import RoomList from "../jobs/RoomList.vue";

/** All work of all shots, and what the data folder holds. */
onMounted(() => (document.title = "Jobs and room – Vumbral"));
</script>

<template>
  <main class="work" data-work>
    <header>
      <router-link class="link" to="/" title="Back to the shelf">Shelf</router-link>
      <h1>Jobs and room</h1>
    </header>
    <div>
      <job-list />
      <notice-wishes />
    </div>
    <div class="beside">
      <machine-list />
      <room-list />
      <kept-list />
      <preset-list />
    </div>
  </main>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 420px);
  gap: 0 36px;
  max-width: 1240px;
  margin: 0 auto;
  padding: 22px 20px 60px;
}

@media (width < 900px) {
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
}

header {
  display: flex;
  grid-column: 1 / -1;
  gap: 16px;
  align-items: baseline;
}

h1 {
  font-size: 18px;
}
</style>
