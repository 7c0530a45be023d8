<script setup lang="ts">
import type { WheelView } from '../api/client'

defineProps<{ wheels: WheelView[] }>()
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="The four wheels">
    <table>
      <caption>
        The four wheels
      </caption>
      <thead>
        <tr>
          <th></th>
          <th>Height, hub to arch</th>
          <th>Toe</th>
          <th>Camber</th>
          <th>Caster</th>
          <th>Load</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in wheels" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ one.height || '·' }}</td>
          <td>{{ one.toe || '·' }}</td>
          <td>{{ one.camber || '·' }}</td>
          <td>{{ one.caster || '·' }}</td>
          <td>{{ one.load_estimated ? '≈ ' : '' }}{{ one.load || '·' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}

table {
  width: 100%;
  border-collapse: collapse;
}

caption {
  padding: 6px 0;
  font: 600 20px var(--figures);
  text-align: left;
}

td,
th {
  padding: 5px 10px 5px 0;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--line);
}
</style>
