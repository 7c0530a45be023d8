<script setup lang="ts">
import 'element-plus/theme-chalk/el-table.css'
import 'element-plus/theme-chalk/el-tag.css'
import NothingYet from '../components/NothingYet.vue'
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
    <el-table
      v-if="fasteners.length"
      :data="fasteners"
      row-key="key"
      max-height="640"
      scrollbar-always-on
      :scrollbar-tabindex="0"
      class="edged"
      aria-label="List"
    >
      <el-table-column prop="group" label="Holds" sortable fixed min-width="150">
        <template #default="{ row }">
          <b>{{ row.group }}</b>
          <div class="soft">{{ row.drive }}</div>
          <el-tag v-if="row.single_use" type="warning">single use</el-tag>
        </template>
      </el-table-column>
      <el-table-column prop="place" label="Place" width="90" class-name="figure" />
      <el-table-column label="Where" sortable :sort-by="where" min-width="110">
        <template #default="{ row }">{{ where(row as FastenerView) }}</template>
      </el-table-column>
      <el-table-column label="Thread, class, torque" min-width="240">
        <template #default="{ row }">
          {{ row.said || 'not known' }}
          <div v-if="row.doubt" class="font-600 c-wait">▲ {{ row.doubt }}</div>
        </template>
      </el-table-column>
      <el-table-column prop="condition" label="Condition" sortable min-width="130">
        <template #default="{ row }">
          {{ row.condition.replace('_', '-') }}
        </template>
      </el-table-column>
      <el-table-column prop="source" label="Source" sortable min-width="180" />
      <el-table-column label="Change, strike off" width="120">
        <template #default="{ row }">
          <el-button text :aria-label="`Change ${row.key}`" @click="editing = row as FastenerView"
            >✎</el-button
          >
          <el-button text :aria-label="`Strike ${row.key} off`" @click="strike(row as FastenerView)"
            >✕</el-button
          >
        </template>
      </el-table-column>
    </el-table>
    <NothingYet v-else said="Nothing listed yet. Add fasteners below, or bring a table in." />
    <FastenerForm :key="editing?.key ?? 'new'" :start="editing" @done="editing = null" />
  </div>
</template>

<style scoped>
header > div:first-child {
  max-width: 720px;
}
</style>
