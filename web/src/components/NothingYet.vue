<script setup lang="ts">
import 'element-plus/theme-chalk/el-empty.css'

/** A place where nothing is yet, and what brings something there; the car's line lies flat until then. */
defineProps<{ said: string }>()
</script>

<template>
  <el-empty class="card">
    <template #image>
      <svg viewBox="0 0 160 44" width="160" height="44" aria-hidden="true">
        <path d="M4 34H156" class="ground" />
        <circle v-for="x in [20, 60, 100, 140]" :key="x" :cx="x" cy="34" r="6" />
      </svg>
    </template>
    <template #description>
      <span class="text-18px c-ink">{{ said }}</span>
    </template>
    <slot />
  </el-empty>
</template>

<style scoped>
.el-empty {
  --el-empty-padding: 28px 16px;
  --el-empty-image-width: 160px;
  --el-empty-description-margin-top: 12px;
  --el-empty-bottom-margin-top: 12px;
}

.ground {
  fill: none;
  stroke: var(--soft);
  stroke-width: 3;
  stroke-dasharray: 6 6;
}

circle {
  fill: var(--card);
  stroke: var(--soft);
  stroke-width: 3;
}
</style>
