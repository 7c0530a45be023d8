<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { useRecord } from '../composables/useRecord'
import BesideTable from './BesideTable.vue'

const { found: record, problem } = useRecord()
</script>

<template>
  <RefusalNote :said="problem" />
  <div v-if="record" class="parts grid one-col gap-14px">
    <p v-if="record.fitted.length"><b>Fitted:</b> {{ record.fitted.join('; ') }}.</p>
    <BesideTable v-if="record.beside.length" :readings="record.beside" />
    <div v-if="record.turns.length" class="scroll" tabindex="0" role="region" aria-label="Turns">
      <table class="sheet-table">
        <caption>
          Turns given
        </caption>
        <thead>
          <tr>
            <th></th>
            <th>Adjuster</th>
            <th>Planned</th>
            <th>Given</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in record.turns" :key="one.where + one.name">
            <th>{{ one.where }}</th>
            <td>{{ one.name }}</td>
            <td>{{ one.planned }}</td>
            <td>{{ one.given }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div
      v-if="record.at_work.length"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="Read at the steps"
    >
      <table class="sheet-table">
        <caption>
          Read at the steps
        </caption>
        <thead>
          <tr>
            <th></th>
            <th>Before</th>
            <th>After</th>
            <th>Changed by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in record.at_work" :key="one.label">
            <th>{{ one.label }}</th>
            <td>{{ one.before }}</td>
            <td>{{ one.after }}</td>
            <td>{{ one.change }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div
      v-if="record.tightened.length"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="Joints"
    >
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
            <th>Car, instrument</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in record.tightened" :key="one.joint + one.places">
            <th>{{ one.joint }}</th>
            <td>{{ one.places }}</td>
            <td>{{ one.thread }}</td>
            <td>{{ one.specified }}</td>
            <td>{{ one.source }}</td>
            <td>{{ one.final ? '✓ ' : '' }}{{ one.said }}</td>
            <td>{{ one.how }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <FoldAway
      v-if="record.car_learns.length"
      :title="`What the car's record will know once this is signed, ${record.car_learns.length}`"
    >
      <ul>
        <li v-for="one in record.car_learns" :key="one">{{ one }}</li>
      </ul>
    </FoldAway>
    <p v-for="one in record.rechecks" :key="one">{{ one }}</p>
  </div>
</template>

<style scoped>
.parts :deep(.card) {
  padding: 0;
  border: 0;
}
</style>
