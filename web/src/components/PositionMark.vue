<script setup lang="ts">
import { computed } from 'vue'
import type { Position } from '../api/client'

const props = defineProps<{ position: Position; said: string; quiet?: boolean }>()
const lift = computed(() => ({ on_wheels: 0, corner_carried: 6, hanging: 12 })[props.position])
</script>

<template>
  <p
    class="position"
    :role="quiet ? undefined : 'status'"
    :aria-label="quiet ? undefined : 'Position of the car'"
  >
    <svg viewBox="0 0 64 44" width="64" height="44" aria-hidden="true">
      <path d="M2 41H62" class="ground" />
      <g :transform="`translate(0 ${-lift})`">
        <path d="M6 31v-8l9-3 6-7h20l9 8 8 2v8z" class="body" />
      </g>
      <circle cx="18" :cy="position === 'hanging' ? 26 : 35" r="5.5" class="wheel" />
      <circle cx="48" :cy="position === 'on_wheels' ? 35 : 26" r="5.5" class="wheel" />
      <path v-if="position !== 'on_wheels'" d="M33 41v-19M28 41h10" class="prop" />
    </svg>
    <span
      >The car is <b class="figure">{{ said }}</b></span
    >
  </p>
</template>

<style scoped>
.position {
  display: flex;
  flex: none;
  gap: 10px;
  align-items: center;
  width: 280px;
}

b {
  display: block;
  font-size: 22px;
  line-height: 1.1;
  color: var(--brass);
}

.ground {
  stroke: var(--chalk-soft);
  stroke-width: 2;
}

.body {
  fill: none;
  stroke: var(--chalk);
  stroke-width: 2.4;
  stroke-linejoin: round;
}

.wheel {
  fill: var(--band);
  stroke: var(--chalk);
  stroke-width: 2.6;
}

.prop {
  fill: none;
  stroke: var(--brass);
  stroke-width: 3;
}

@media (width <= 760px) {
  .position {
    width: auto;
  }

  b {
    display: inline;
  }
}
</style>
