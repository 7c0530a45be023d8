<script setup lang="ts">
import type { WheelView } from '../api/client'

defineProps<{ wheels: WheelView[] }>()
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="The four wheels">
    <table class="sheet-table">
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
