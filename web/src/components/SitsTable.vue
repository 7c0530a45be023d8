<script setup lang="ts">
import { useSprings } from '../composables/useSprings'
import { sayNumber } from '../composables/useWords'

const { view } = useSprings()
</script>

<template>
  <div
    v-if="view?.wheels.some((one) => one.load_n !== null)"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Loads"
  >
    <table class="sheet-table">
      <caption>
        Loads in N
      </caption>
      <thead>
        <tr>
          <th></th>
          <th>Before</th>
          <th>After</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in view.wheels" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ one.load_before_n === null ? '' : sayNumber(one.load_before_n, 0) }}</td>
          <td>{{ one.load_n === null ? '' : sayNumber(one.load_n, 0) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="view.cross_before_pct !== null && view.cross_pct !== null">
      Cross weight {{ sayNumber(view.cross_before_pct) }} % before,
      {{ sayNumber(view.cross_pct) }} % after.
    </p>
  </div>
</template>
