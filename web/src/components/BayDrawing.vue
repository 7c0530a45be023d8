<script setup lang="ts">
import { computed } from 'vue'
import type { BayPicture } from '../api/client'

/** The practice car in its bay, from both sides and from above: it rises, falls and steers with what was done; no
 * number is shown. */
const props = defineProps<{ bay: BayPicture }>()
const SIDES = [
  { name: 'left', title: 'Left side' },
  { name: 'right', title: 'Right side' },
] as const
const seen = (wheel: string) => props.bay.corners.find((one) => one.wheel === wheel)
const rise = (wheel: string) => Math.max(-30, Math.min(40, seen(wheel)?.rise ?? 0))
const PLACES = [
  { wheel: 'front.left', at: 'translate(16 34)', out: 1 },
  { wheel: 'front.right', at: 'translate(76 34)', out: -1 },
  { wheel: 'rear.left', at: 'translate(16 116)', out: 1 },
  { wheel: 'rear.right', at: 'translate(76 116)', out: -1 },
] as const
/** Toed in, the nose of a left wheel turns to the right as seen from above. */
const heading = (wheel: string) => seen(wheel)?.heading ?? 0
const sides = computed(() =>
  SIDES.map((side) => ({
    ...side,
    front: rise(`front.${side.name}`) / 3,
    rear: rise(`rear.${side.name}`) / 3,
  })),
)
</script>

<template>
  <div
    class="grid grid-cols-[1fr_1fr_minmax(70px,0.4fr)] gap-12px items-end lt-phone:grid-cols-[1fr_1fr]"
    role="img"
    aria-label="The practice car in the bay"
  >
    <figure v-for="side in sides" :key="side.name" class="m-0">
      <svg viewBox="0 0 220 92">
        <path class="stroke-soft [stroke-width:2]" d="M4 84H216" />
        <g
          :transform="`translate(0 ${-(side.front + side.rear) / 2}) rotate(${(side.front - side.rear) * 0.35} 110 50)`"
        >
          <path
            class="fill-card stroke-ink [stroke-width:2.5] [stroke-linejoin:round]"
            d="M14 66 V48 L40 42 L66 20 H132 L166 42 L204 48 V66 H190 A20 20 0 0 0 150 66 H74 A20 20 0 0 0 34 66 Z"
          />
        </g>
        <circle class="fill-band" cx="54" cy="68" r="16" />
        <circle class="fill-band" cx="170" cy="68" r="16" />
        <circle class="fill-chalk" cx="54" cy="68" r="3" />
        <circle class="fill-chalk" cx="170" cy="68" r="3" />
      </svg>
      <figcaption class="soft">{{ side.title }}, front to the left</figcaption>
    </figure>
    <figure class="m-0">
      <svg viewBox="0 0 92 150" class="max-h-120px">
        <path
          class="fill-card stroke-ink [stroke-width:2.5] [stroke-linejoin:round]"
          d="M24 14 Q46 2 68 14 L72 60 V136 Q46 146 20 136 V60 Z"
        />
        <path class="fill-none stroke-soft [stroke-width:1.5]" d="M27 56 H65 M30 112 H62" />
        <g :transform="`translate(37 72) rotate(${bay.steering})`">
          <circle class="fill-none stroke-ink [stroke-width:2]" r="6" />
          <path class="stroke-ink [stroke-width:2]" d="M-6 0H6M0 0V6" />
        </g>
        <g v-for="place in PLACES" :key="place.wheel" :transform="place.at">
          <rect
            class="fill-band"
            x="-6"
            y="-15"
            width="12"
            height="30"
            rx="3"
            :transform="`rotate(${place.out * heading(place.wheel)})`"
          />
        </g>
      </svg>
      <figcaption class="soft">
        From above: wheels ten times as far in or out, the steering wheel as it runs straight
      </figcaption>
    </figure>
  </div>
</template>
