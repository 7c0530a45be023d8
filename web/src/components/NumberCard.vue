<script setup lang="ts">
import { computed } from 'vue'
import type { NumberView } from '../api/client'
import { sayNumber, saySigned } from '../composables/useWords'

const props = defineProps<{
  label: string
  number: NumberView | null
  signed?: boolean
  digits?: number
  missing?: string[]
}>()
const say = computed(() => (props.signed ? saySigned : sayNumber))
const biggest = computed(() => props.number?.inputs[0]?.share_pct ?? 0)
</script>

<template>
  <div class="number">
    <span class="label">{{ label }}</span>
    <template v-if="number">
      <span class="figure value">
        {{ number.also || `${say(number.value, digits ?? 1)} ${number.unit}` }}
        <small v-if="number.plus_minus">± {{ sayNumber(number.plus_minus, digits ?? 1) }}</small>
      </span>
      <details v-if="number.rule">
        <summary>Where from</summary>
        <p>{{ number.rule }}</p>
        <table>
          <tr v-for="input in number.inputs" :key="input.key">
            <td>{{ input.label }}</td>
            <td class="figure">{{ input.shown }}</td>
            <td class="share">
              <i :style="{ width: `${biggest ? (60 * input.share_pct) / biggest : 0}px` }" />
              {{ sayNumber(input.share_pct, 0) }} %
            </td>
          </tr>
        </table>
        <p class="soft">
          The bar is each input's share of the ±, which is stated with coverage factor 2.
        </p>
      </details>
    </template>
    <span v-else class="soft needs"
      >Needs {{ missing?.join(', ').toLowerCase() || 'more readings' }}</span
    >
  </div>
</template>

<style scoped>
.number {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 14px;
  align-items: baseline;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}

.value {
  font-size: 24px;
  text-align: right;
}

small {
  font-size: 18px;
  color: var(--soft);
}

.needs,
details {
  grid-column: 1 / -1;
}

summary {
  min-height: 30px;
  color: var(--go);
  cursor: pointer;
}

td {
  padding: 2px 10px 2px 0;
  vertical-align: baseline;
}

.share {
  white-space: nowrap;
}

i {
  display: inline-block;
  height: 10px;
  background: var(--brass);
}
</style>
