<script setup lang="ts">
import type { SpringsView } from '../api/client'
import { sayNumber, saySigned } from '../composables/useWords'
import FieldsHere from './FieldsHere.vue'

defineProps<{ bars: SpringsView['bars'] }>()
</script>

<template>
  <p v-if="!bars.length" class="card soft">No sway bar, by the car's record.</p>
  <section v-for="bar in bars" :key="bar.axle" class="card stack" :aria-label="`${bar.axle} bar`">
    <h3>{{ bar.axle === 'front' ? 'Front' : 'Rear' }} bar</h3>
    <el-alert v-if="bar.problem" type="warning" :closable="false" role="note">{{
      bar.problem
    }}</el-alert>
    <template v-if="bar.lacks.length">
      <p class="wait">○ Not known yet: {{ bar.lacks.join(', ').toLowerCase() }}.</p>
      <FieldsHere :keys="bar.asked" />
    </template>
    <table v-if="bar.holes.length" class="sheet-table">
      <thead>
        <tr>
          <th>Hole</th>
          <th>At the wheels, per mm of their difference</th>
          <th>Front share of roll stiffness</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in bar.holes" :key="one.name">
          <th>{{ one.used ? '●' : '○' }} Hole {{ one.name }}</th>
          <td>{{ sayNumber(one.rate_n_per_mm) }} N/mm</td>
          <td>
            {{ one.front_share_pct === null ? '–' : `${sayNumber(one.front_share_pct)} %` }}
          </td>
        </tr>
      </tbody>
    </table>
    <template v-if="bar.preload_n !== null">
      <el-alert
        :type="Math.abs(bar.preload_n) > 20 ? 'warning' : 'success'"
        :closable="false"
        role="note"
      >
        Forced on as it is, the second link would carry
        {{ sayNumber(Math.abs(bar.preload_n), 0) }} ±
        {{ sayNumber(bar.preload_plus_minus_n, 0) }} N<template v-if="bar.cross_shift_pct !== null">
          and move cross weight by {{ saySigned(bar.cross_shift_pct, 2) }} ±
          {{ sayNumber(bar.cross_shift_plus_minus_pct, 2) }} %</template
        >.
      </el-alert>
      <p v-if="bar.link_mm !== null">
        Set it to <b class="figure text-22px">{{ sayNumber(bar.link_mm) }} mm</b> ±
        {{ sayNumber(bar.link_plus_minus_mm) }} centre to centre: it then goes on free, equal thread
        at both ends.
      </p>
    </template>
    <p v-if="bar.sideways_mm !== null">
      Sideways: move the bar
      <b class="figure">{{ sayNumber(Math.abs(bar.sideways_mm)) }} mm</b> to the
      {{ bar.sideways_mm > 0 ? 'left' : 'right' }}, then its gaps are equal.
    </p>
    <p class="soft">
      Swing the suspension through bump, droop and full lock by hand before the wheels go on: bar,
      link and tyre must clear.
    </p>
  </section>
</template>
