<script setup lang="ts">
import { computed } from 'vue'
import type { Position } from '../api/client'

const props = defineProps<{ position: Position; said: string; quiet?: boolean }>()
const lift = computed(() => ({ on_wheels: 0, corner_carried: 6, hanging: 12 })[props.position])
</script>

<template>
  <p
    class="flex flex-none gap-10px items-center w-280px lt-phone:[width:auto]"
    :role="quiet ? undefined : 'status'"
    :aria-label="quiet ? undefined : 'Position of the car'"
  >
    <svg viewBox="0 0 64 44" width="64" height="44" aria-hidden="true">
      <path d="M2 41H62" class="stroke-chalk-soft [stroke-width:2]" />
      <g :transform="`translate(0 ${-lift})`">
        <path
          d="M6 31v-8l9-3 6-7h20l9 8 8 2v8z"
          class="fill-none stroke-chalk [stroke-width:2.4] [stroke-linejoin:round]"
        />
      </g>
      <circle
        cx="18"
        :cy="position === 'hanging' ? 26 : 35"
        r="5.5"
        class="fill-band stroke-chalk [stroke-width:2.6]"
      />
      <circle
        cx="48"
        :cy="position === 'on_wheels' ? 35 : 26"
        r="5.5"
        class="fill-band stroke-chalk [stroke-width:2.6]"
      />
      <path
        v-if="position !== 'on_wheels'"
        d="M33 41v-19M28 41h10"
        class="fill-none stroke-brass [stroke-width:3]"
      />
    </svg>
    <span
      >The car is
      <b class="figure block text-22px [line-height:1.1] c-brass lt-phone:[display:inline]">{{
        said
      }}</b></span
    >
  </p>
</template>
