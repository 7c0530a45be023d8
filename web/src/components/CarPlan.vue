<script setup lang="ts">
defineProps<{
  /** What stands beside each wheel, by corner; two short lines at most. */
  labels: Record<string, string[]>
  at?: string
  done?: string[]
  doubtful?: string[]
}>()
const emit = defineEmits<{ pick: [corner: string] }>()
const WHEELS = [
  { key: 'front.left', x: 92, y: 62, name: 'Front left' },
  { key: 'front.right', x: 232, y: 62, name: 'Front right' },
  { key: 'rear.left', x: 92, y: 226, name: 'Rear left' },
  { key: 'rear.right', x: 232, y: 226, name: 'Rear right' },
]
</script>

<template>
  <svg
    viewBox="-18 0 376 316"
    role="group"
    aria-label="The car from above, front upwards"
    class="w-full max-w-380px"
  >
    <path
      class="fill-paper stroke-soft [stroke-width:2]"
      d="M120 40 Q124 12 170 10 Q216 12 220 40 L224 262 Q222 296 170 298 Q118 296 116 262 Z"
    />
    <path
      class="fill-none stroke-line [stroke-width:2]"
      d="M130 100 Q170 84 210 100 L204 124 Q170 114 136 124 Z"
    />
    <path
      class="fill-none stroke-line [stroke-width:2]"
      d="M136 236 Q170 246 204 236 L208 254 Q170 266 132 254 Z"
    />
    <path class="fill-soft" d="M170 24 l-7 12 h14 z" />
    <g
      v-for="wheel in WHEELS"
      :key="wheel.key"
      class="wheel"
      :class="{
        at: at === wheel.key,
        done: done?.includes(wheel.key),
        doubtful: doubtful?.includes(wheel.key),
      }"
      role="button"
      tabindex="0"
      :aria-label="wheel.name"
      @click="emit('pick', wheel.key)"
      @keydown.enter="emit('pick', wheel.key)"
    >
      <rect
        class="[fill:transparent]"
        :x="wheel.x < 170 ? 0 : 208"
        :y="wheel.y - 30"
        width="132"
        height="100"
      />
      <rect
        class="tyre fill-card stroke-ink [stroke-width:2]"
        :x="wheel.x"
        :y="wheel.y - 12"
        width="20"
        height="62"
        rx="6"
      />
      <text
        v-if="doubtful?.includes(wheel.key)"
        class="tick [font:600_20px_var(--figures)] fill-go [text-anchor:middle]"
        :x="wheel.x + 10"
        :y="wheel.y + 25"
      >
        ▲
      </text>
      <text
        v-else-if="done?.includes(wheel.key)"
        class="tick [font:600_20px_var(--figures)] fill-go [text-anchor:middle]"
        :x="wheel.x + 10"
        :y="wheel.y + 25"
      >
        ✓
      </text>
      <text
        v-for="(line, row) in labels[wheel.key] ?? []"
        :key="row"
        :class="row ? 'small' : 'first'"
        :x="wheel.x < 170 ? 84 : 260"
        :y="wheel.y + 6 + row * 22"
        :text-anchor="wheel.x < 170 ? 'end' : 'start'"
        class="fill-ink [font:600_20px_var(--figures)]"
      >
        {{ line }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.wheel {
  cursor: pointer;
}

.wheel.done .tyre {
  fill: var(--go-wash);
  stroke: var(--go);
}

.wheel.doubtful .tyre {
  fill: var(--wait-wash);
  stroke: var(--wait);
}

.doubtful .tick {
  fill: var(--wait);
}

.wheel.at .tyre {
  fill: var(--brass);
  stroke: var(--ink);
  stroke-width: 3;
}

.small {
  fill: var(--soft);
  font-size: 17px;
}

.at .tick {
  fill: #1c2628;
}
</style>
