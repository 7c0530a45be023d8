<script setup lang="ts">
import type { GeometryView } from '../api/client'
import { sayNumber, saySigned } from '../composables/useWords'

defineProps<{ axle: GeometryView['solid'][number] }>()
</script>

<template>
  <section class="card stack" :aria-label="`Solid axle, ${axle.axle}`">
    <h3>The axle as one piece</h3>
    <el-alert v-if="axle.problem" type="warning" :closable="false" role="note">{{
      axle.problem
    }}</el-alert>
    <el-alert v-if="axle.lacks.length" type="warning" :closable="false" role="note">
      Points still to be measured: {{ axle.lacks.join(', ') }}.
    </el-alert>
    <template v-if="axle.roll_steer !== null">
      <p>
        Steers <b class="figure">{{ saySigned(axle.roll_steer, 3) }}°</b> for each degree of roll
        (the left wheel up; heading right is positive)<template v-if="axle.shift_per_heave !== null"
          >, shifts <b class="figure">{{ saySigned(axle.shift_per_heave * 10, 2) }} mm</b> to the
          left for each 10 mm both wheels go up</template
        >.
        <template v-if="(axle.give_mm ?? 0) > 0.05">
          At 3° of roll its links disagree by {{ sayNumber(axle.give_mm ?? 0, 2) }} mm, which the
          bushings give.
        </template>
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Heave and roll">
        <table class="sheet-table">
          <tbody>
            <tr v-if="axle.heave_mm.length">
              <th>Both wheels up, mm</th>
              <td v-for="one in axle.heave_mm" :key="one">{{ sayNumber(one, 0) }}</td>
            </tr>
            <tr v-if="axle.heave_mm.length">
              <th>Axle to the left, mm</th>
              <td v-for="(one, n) in axle.shift_mm" :key="n">{{ sayNumber(one, 1) }}</td>
            </tr>
            <tr>
              <th>Roll, °</th>
              <td v-for="one in axle.roll_deg" :key="one">{{ sayNumber(one, 1) }}</td>
            </tr>
            <tr>
              <th>Axle steer, °</th>
              <td v-for="(one, n) in axle.steer_deg" :key="n">{{ sayNumber(one, 2) }}</td>
            </tr>
            <tr v-if="axle.camber_deg.length">
              <th>Left wheel leans, °</th>
              <td v-for="(one, n) in axle.camber_deg" :key="n">{{ sayNumber(one, 2) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
  </section>
</template>
