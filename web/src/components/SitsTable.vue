<script setup lang="ts">
import { useSprings } from '../composables/useSprings'
import { sayNumber } from '../composables/useWords'

const { view } = useSprings()
const mm = (length: number | null) => (length === null ? '·' : sayNumber(length))
</script>

<template>
  <div
    v-if="view?.wheels.length"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Heights and loads"
  >
    <table class="sheet-table">
      <caption>
        Heights hub to arch in mm, loads in N
      </caption>
      <thead>
        <tr>
          <th></th>
          <th>Before</th>
          <th>Predicted</th>
          <th>Wanted</th>
          <th>Settled</th>
          <th>Load before</th>
          <th>Load after</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in view.wheels" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ mm(one.height_mm) }}</td>
          <td>{{ mm(one.predicted_mm) }} ± {{ sayNumber(one.predicted_plus_minus_mm) }}</td>
          <td>{{ mm(one.target_mm) }}</td>
          <td>{{ mm(one.measured_mm) }}</td>
          <td>{{ sayNumber(one.load_before_n, 0) }}</td>
          <td>{{ sayNumber(one.load_n, 0) }}</td>
        </tr>
      </tbody>
    </table>
    <p>
      Cross weight {{ sayNumber(view.cross_before_pct) }} % before,
      {{ sayNumber(view.cross_pct) }} % after.
    </p>
  </div>
</template>
