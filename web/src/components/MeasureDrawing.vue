<script setup lang="ts">
/** Our own sketches of how something is measured; the brass line is what is read. */
defineProps<{ name: string }>()
</script>

<template>
  <svg
    viewBox="0 0 240 120"
    role="img"
    aria-label="Sketch of the measurement"
    class="w-full bg-paper rounded"
  >
    <template v-if="name === 'height'">
      <path d="M8 112H232" class="stroke-soft" />
      <path d="M40 60 A58 58 0 0 1 200 60" />
      <circle cx="120" cy="78" r="34" class="fill-line" />
      <circle cx="120" cy="78" r="3" class="fill-ink" />
      <path d="M120 78V22" class="read" />
    </template>
    <template v-else-if="name === 'strings'">
      <rect x="60" y="14" width="26" height="40" class="fill-line" transform="rotate(-6 73 34)" />
      <rect x="60" y="70" width="26" height="40" class="fill-line" />
      <path d="M30 4V116" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M30 20H58M30 50H62M30 76H60M30 104H60" class="read" />
      <path d="M120 8V112" class="soft stroke-soft" />
    </template>
    <template v-else-if="name === 'plates'">
      <rect x="40" y="30" width="10" height="60" class="fill-line" transform="rotate(5 45 60)" />
      <rect x="190" y="30" width="10" height="60" class="fill-line" transform="rotate(-5 195 60)" />
      <path d="M50 34H190M50 88H190" class="read" />
      <text x="120" y="26" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        ahead
      </text>
      <text x="120" y="106" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        behind
      </text>
    </template>
    <template v-else-if="name === 'level'">
      <path d="M8 114H232" class="stroke-soft" />
      <rect
        x="98"
        y="14"
        width="30"
        height="98"
        rx="12"
        class="fill-line"
        transform="rotate(-4 113 63)"
      />
      <rect
        x="134"
        y="24"
        width="12"
        height="74"
        class="fill-go-wash stroke-go"
        transform="rotate(-4 140 61)"
      />
      <path d="M170 20V112" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M148 20H170" class="read" />
    </template>
    <template v-else-if="name === 'plumb'">
      <path d="M8 114H232" class="stroke-soft" />
      <rect
        x="90"
        y="14"
        width="30"
        height="98"
        rx="12"
        class="fill-line"
        transform="rotate(-5 105 63)"
      />
      <path d="M150 4V104" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M146 104h8l-4 10z" class="fill-ink" />
      <path d="M116 26H150M124 96H150" class="read" />
    </template>
    <template v-else-if="name === 'sweep'">
      <rect x="106" y="20" width="28" height="80" rx="10" class="fill-line" />
      <path d="M120 60L48 30M120 60L48 90" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M70 40A56 56 0 0 0 70 80" class="read" />
      <text x="40" y="24" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        out
      </text>
      <text x="40" y="108" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        in
      </text>
    </template>
    <template v-else-if="name === 'ratio'">
      <path d="M8 112H232" class="stroke-soft" />
      <circle cx="170" cy="76" r="32" class="fill-line" />
      <path d="M30 80L170 76" />
      <path d="M110 78L96 20" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M92 74L80 24" class="read" />
      <path d="M214 76V36" class="read" />
    </template>
    <template v-else-if="name === 'scales'">
      <path d="M60 40H180V80H60Z" />
      <rect x="38" y="30" width="24" height="14" class="fill-go-wash stroke-go" />
      <rect x="178" y="30" width="24" height="14" class="fill-go-wash stroke-go" />
      <rect x="38" y="76" width="24" height="14" class="fill-go-wash stroke-go" />
      <rect x="178" y="76" width="24" height="14" class="fill-go-wash stroke-go" />
      <text x="120" y="65" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        level with each other
      </text>
    </template>
    <template v-else-if="name === 'centre'">
      <circle cx="40" cy="60" r="16" />
      <circle cx="200" cy="60" r="16" />
      <path d="M56 54H184M56 66H184" />
      <circle cx="40" cy="60" r="3" class="fill-ink" />
      <circle cx="200" cy="60" r="3" class="fill-ink" />
      <path d="M40 96H200M40 88V104M200 88V104" class="read" />
    </template>
    <template v-else-if="name === 'rise'">
      <path d="M8 112H232" class="stroke-soft" />
      <path d="M50 70L190 48" />
      <circle cx="50" cy="70" r="4" class="fill-ink" />
      <circle cx="190" cy="48" r="4" class="fill-ink" />
      <path d="M50 74V112M190 52V112" class="read" />
    </template>
    <template v-else-if="name === 'spring' || name === 'press'">
      <path d="M60 104H180" class="stroke-soft" />
      <path d="M80 100L160 88L80 76L160 64L80 52L160 40L80 28L160 20" />
      <path v-if="name === 'press'" d="M60 16H180M120 2V14" class="fill-go-wash stroke-go" />
      <path d="M196 104V18M190 104H202M190 18H202" class="read" />
    </template>
    <template v-else-if="name === 'point'">
      <path d="M8 112H232" class="stroke-soft" />
      <path d="M120 20V104" class="stroke-soft [stroke-dasharray:5_4]" />
      <path d="M116 100h8l-4 10z" class="fill-ink" />
      <circle cx="120" cy="20" r="4" class="fill-ink" />
      <path d="M20 106H118" class="read" />
      <path d="M140 20V112" class="read" />
      <text x="66" y="98" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        x, y
      </text>
      <text x="156" y="70" class="[font:600_12px_var(--words)] [text-anchor:middle] fill-soft">
        z
      </text>
    </template>
    <template v-else>
      <path d="M20 54H120M20 70H120" />
      <path d="M34 54l6 16M50 54l6 16M66 54l6 16M82 54l6 16M98 54l6 16" />
      <path d="M120 44h24l10 18l-10 18h-24z" class="fill-go-wash stroke-go" />
      <circle cx="190" cy="62" r="20" />
      <path d="M168 26A40 40 0 0 1 220 44" class="read" />
    </template>
  </svg>
</template>

<style scoped>
path,
circle,
rect {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
  stroke-linejoin: round;
  stroke-linecap: round;
}

.read {
  stroke: var(--brass);
  stroke-width: 3.4;
}
</style>
