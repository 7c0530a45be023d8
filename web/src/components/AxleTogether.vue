<script setup lang="ts">
import type { AxlePlanView, StandsView } from '../api/client'
import { sayNumber, VERDICTS } from '../composables/useWords'

defineProps<{ axle: AxlePlanView; stands?: StandsView }>()
const capital = (name: string) => name[0]!.toUpperCase() + name.slice(1)
</script>

<template>
  <div
    class="grid gap-4px"
    :aria-label="`${capital(axle.axle)} axle, both wheels together`"
    role="group"
  >
    <p v-if="stands" class="figure">
      As it stands: total toe {{ sayNumber(stands.total_deg, 2) }}° ±
      {{ sayNumber(stands.total_plus_minus_deg, 2) }}, thrust
      {{ sayNumber(stands.thrust_deg, 2) }}°.
    </p>
    <ul
      v-if="axle.together.length && !stands?.read_after"
      class="flex flex-wrap gap-y-4px gap-x-24px bare-list"
    >
      <li
        v-for="one in axle.together"
        :key="one.name"
        :class="one.verdict === 'likely' ? 'go' : 'wait'"
      >
        {{ VERDICTS[one.verdict] }} {{ capital(one.name) }}
        <b class="figure">{{ sayNumber(one.value_deg, 2) }}°</b>
        <template v-if="one.plus_minus_deg !== null">
          ± {{ sayNumber(one.plus_minus_deg, 2) }}</template
        >, wanted {{ sayNumber(one.goal_deg, 2) }}° ± {{ sayNumber(one.limit_deg, 2) }}
      </li>
    </ul>
    <p v-if="axle.chance_pct !== null && !stands?.read_after" class="soft">
      Chance that the whole axle ends inside:
      <b class="figure">{{ sayNumber(axle.chance_pct, 0) }} %</b>.
      <template v-if="axle.shares.length">
        What is open comes from
        {{ axle.shares.map((one) => `${one.name} (${sayNumber(one.share_pct, 0)} %)`).join(', ') }}:
        the first is most worth reading again.
      </template>
    </p>
  </div>
</template>

<style scoped>
.go {
  color: var(--go);
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
