<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import type { FastenerView } from '../api/client'
import FastenerForm from '../components/FastenerForm.vue'
import TableFiles from '../components/TableFiles.vue'
import { useActing } from '../composables/useActing'
import { useCar } from '../stores/car'

const store = useCar()
const { problem, act } = useActing()
const editing = ref<FastenerView | null>(null)
const fasteners = computed(() => store.car!.fasteners)
const where = (one: FastenerView) => [one.axle, one.side].filter(Boolean).join(' ')
const strike = (one: FastenerView) => act({ kind: 'struck', key: one.key })
</script>

<template>
  <div class="grid one-col gap-14px">
    <header class="flex flex-wrap gap-y-10px gap-x-20px justify-between">
      <div>
        <h2>Fasteners</h2>
        <p class="soft">
          Values are yours, with their source: this product never invents a torque. A value that
          looks wrong for its thread is asked about.
        </p>
      </div>
      <TableFiles table="fasteners" />
    </header>
    <RefusalNote :said="problem" />
    <div v-if="fasteners.length" class="scroll card" tabindex="0" role="region" aria-label="List">
      <table class="sheet-table">
        <thead>
          <tr>
            <th>Holds</th>
            <th>Place</th>
            <th>Where</th>
            <th>Thread, class, torque</th>
            <th>Condition</th>
            <th>Source</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in fasteners" :key="one.key">
            <td>
              <b>{{ one.group }}</b>
              <span v-if="one.single_use" class="font-600 c-wait"> single use</span>
              <div class="soft">{{ one.drive }}</div>
            </td>
            <td class="figure">{{ one.place }}</td>
            <td>{{ where(one) }}</td>
            <td>
              {{ one.said || 'not known' }}
              <div v-if="one.doubt" class="font-600 c-wait">▲ {{ one.doubt }}</div>
            </td>
            <td>{{ one.condition.replace('_', '-') }}</td>
            <td>{{ one.source }}</td>
            <td class="whitespace-nowrap">
              <el-button text :aria-label="`Change ${one.key}`" @click="editing = one">✎</el-button>
              <el-button text :aria-label="`Strike ${one.key} off`" @click="strike(one)">
                ✕
              </el-button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else class="card">Nothing listed yet. Add fasteners below, or bring a table in.</p>
    <FastenerForm :key="editing?.key ?? 'new'" :start="editing" @done="editing = null" />
  </div>
</template>

<style scoped>
header > div:first-child {
  max-width: 720px;
}
</style>
