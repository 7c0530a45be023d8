<script setup lang="ts">
import type { SpringsView } from '../api/client'
import { sayNumber } from '../composables/useWords'
import FieldsHere from './FieldsHere.vue'
import FoldAway from './FoldAway.vue'

defineProps<{ travel: SpringsView['travel']; steeringDamper: string[] }>()
const WAYS = [
  { key: 'bump', label: 'Bump' },
  { key: 'droop', label: 'Droop' },
] as const
</script>

<template>
  <el-alert
    v-for="words in steeringDamper"
    :key="words"
    :type="words.startsWith('▲') ? 'warning' : 'success'"
    :closable="false"
    role="note"
  >
    {{ words }}
  </el-alert>
  <div class="pair">
    <section v-for="one in travel" :key="one.key" class="card stack" :aria-label="one.label">
      <h3>{{ one.label }}</h3>
      <el-alert
        v-for="words in one.warnings"
        :key="words"
        type="warning"
        :closable="false"
        role="note"
        >▲ {{ words }}</el-alert
      >
      <div v-for="way in WAYS" :key="way.key">
        <template v-if="one[way.key].length">
          <p>
            <b>{{ way.label }}:</b>&nbsp;<b class="figure text-24px">
              {{ sayNumber(Math.abs(one[way.key][0]!.travel_mm), 0) }} mm</b
            >
            <span v-if="one[way.key][0]!.plus_minus_mm" class="soft">
              ± {{ sayNumber(one[way.key][0]!.plus_minus_mm, 0) }}
            </span>
            until {{ one[way.key][0]!.name }}
          </p>
          <ol v-if="one[way.key].length > 1" class="soft mt-2px mx-0 mb-0" start="2">
            <li v-for="limit in one[way.key].slice(1)" :key="limit.name">
              {{ sayNumber(Math.abs(limit.travel_mm), 0) }} mm {{ limit.name }}
            </li>
          </ol>
        </template>
        <p v-else class="soft">{{ way.label }}: nothing known yet that ends it.</p>
      </div>
      <FoldAway
        v-if="one.lacks.length"
        :title="`For the damper: ${one.lacks.join(', ').toLowerCase()}`"
      >
        <FieldsHere :keys="one.asked" />
      </FoldAway>
    </section>
  </div>
</template>
