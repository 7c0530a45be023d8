<script setup lang="ts">
import { computed } from 'vue'
import { useJoints } from '../composables/useJoints'

const { view } = useJoints()
const rows = computed(() =>
  (view.value?.joints ?? []).flatMap((joint) =>
    joint.bolts.filter((one) => one.stage).map((one) => ({ joint: joint.label, ...one })),
  ),
)
</script>

<template>
  <div v-if="rows.length" class="scroll" tabindex="0" role="region" aria-label="Joints">
    <table class="sheet-table">
      <caption>
        Joints, place by place
      </caption>
      <thead>
        <tr>
          <th>Joint</th>
          <th>Place</th>
          <th>Thread</th>
          <th>Specified</th>
          <th>Source</th>
          <th>As it stands</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in rows" :key="one.joint + one.number">
          <td>{{ one.joint }}</td>
          <td>{{ one.number }}</td>
          <td>{{ one.thread }}</td>
          <td>{{ one.spec }}</td>
          <td>{{ one.source }}</td>
          <td>{{ one.final ? '✓ ' : '' }}{{ one.said }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
