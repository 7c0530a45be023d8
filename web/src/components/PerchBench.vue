<script setup lang="ts">
import type { SpringsView } from '../api/client'
import { computed } from 'vue'
import { sayNumber, saySigned } from '../composables/useWords'
import FieldsHere from './FieldsHere.vue'
import FoldAway from './FoldAway.vue'

const props = defineProps<{ view: SpringsView }>()
const SHORT = ['FL', 'FR', 'RL', 'RR']
const asked = computed(() => [...new Set(props.view.bench.flatMap((one) => one.asked))])
</script>

<template>
  <section class="card stack" aria-label="Rings before assembly">
    <h3>On the bench: where each ring goes</h3>
    <p v-if="!view.bench.length" class="soft">
      No threaded seats, by the car's record. An axle with threaded seats has “Coil, threaded seat”
      as its spring.
    </p>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Rings">
      <table class="sheet-table">
        <thead>
          <tr>
            <th></th>
            <th>Seat above lower eye</th>
            <th>Turns up from the bottom</th>
            <th>Thread left above</th>
            <th>Mid-thread would be</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in view.bench" :key="one.key">
            <th>{{ one.label }}</th>
            <template v-if="one.from_lower_eye_mm !== null">
              <td>
                <b class="figure text-22px">{{ sayNumber(one.from_lower_eye_mm) }} mm</b>
                <span class="soft"> ± {{ sayNumber(one.plus_minus_mm) }}</span>
                <p v-if="one.problem" class="font-600 c-wait">▲ {{ one.problem }}</p>
              </td>
              <td>{{ sayNumber(one.turns_up ?? 0) }}</td>
              <td>
                {{
                  one.from_thread_end_mm === null ? '–' : `${sayNumber(one.from_thread_end_mm)} mm`
                }}
              </td>
              <td class="soft">
                {{ one.by_thumb_mm === null ? '–' : `${sayNumber(one.by_thumb_mm)} mm` }}
              </td>
            </template>
            <td v-else colspan="4" class="soft">
              {{ one.problem || `Not known yet: ${one.lacks.join(', ').toLowerCase()}.` }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <FoldAway v-if="asked.length" title="Tell it here" open>
      <FieldsHere :keys="asked" />
    </FoldAway>
  </section>
  <section class="card stack" aria-label="Ring turns for heights and cross weight">
    <h3>On the car: turns at all four rings together</h3>
    <p v-if="!view.correction" class="soft">
      Give a height wanted at a wheel, or a cross weight wanted: the turns follow.
    </p>
    <el-alert v-else-if="view.correction.problem" type="warning" :closable="false" role="note">{{
      view.correction.problem
    }}</el-alert>
    <template v-else>
      <p class="soft">
        {{
          view.correction.measured
            ? 'From the heights read after settling.'
            : 'From the prediction; read the heights after settling for the real ones.'
        }}
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Ring turns">
        <table class="sheet-table">
          <thead>
            <tr>
              <th></th>
              <th>Turn</th>
              <th>One turn up does: height {{ SHORT.join(' · ') }}, mm</th>
              <th>load {{ SHORT.join(' · ') }}, N</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in view.correction.perches" :key="one.key">
              <th>{{ one.label }}</th>
              <td>
                <b class="figure text-22px">{{ one.said }}</b>
                <span class="soft">
                  exactly {{ saySigned(one.exact_turns, 2) }} ±
                  {{ sayNumber(one.plus_minus_turns, 2) }}
                </span>
              </td>
              <td>{{ one.heights_mm.map((mm) => saySigned(mm, 2)).join(' · ') }}</td>
              <td>{{ one.loads_n.map((force) => saySigned(force, 0)).join(' · ') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p>
        Then: heights
        <b class="figure">
          {{ view.correction.heights_mm.map((mm) => sayNumber(mm)).join(' · ') }} mm
        </b>
        , cross weight <b class="figure">{{ sayNumber(view.correction.cross_pct ?? 0, 2) }} %</b>.
      </p>
    </template>
  </section>
</template>
