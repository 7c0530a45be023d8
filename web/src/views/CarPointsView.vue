<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import CornerDrawing from '../components/CornerDrawing.vue'
import FieldGroup from '../components/FieldGroup.vue'
import { useCarPart } from '../composables/useCarPart'
import TableFiles from '../components/TableFiles.vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useCar } from '../stores/car'

const store = useCar()
const page = ref<HTMLElement | null>(null)
const moveOn = useMoveOn(page)
const points = computed(() => store.sheet?.fields.filter((one) => one.group === 'Points') ?? [])
const of = (axle: string) => points.value.filter((one) => one.axle === axle)
const { found: drawn, problem } = useCarPart(
  'points',
  (path) => (api) => api.GET('/api/cars/{car_id}/points', { params: { path } }),
)
const drawnOf = (axle: string) => drawn.value?.filter((one) => one.key.startsWith(axle)) ?? []
const read = computed(() => points.value.filter((one) => store.car!.entries[one.key]).length)
</script>

<template>
  <div ref="page" class="grid one-col gap-14px">
    <header class="flex flex-wrap gap-y-10px gap-x-20px items-center justify-between">
      <div>
        <h2>Points</h2>
        <p class="soft">
          As read: tape from two chalk lines or a string, plumb bob, rule from the floor. Or x
          forward, y left, z up from one origin on the centre line. “Copy left to right” on an
          axle's page mirrors them.
        </p>
      </div>
      <p class="figure text-22px c-go">{{ read }} of {{ points.length }} known</p>
    </header>
    <RefusalNote :said="problem" />
    <TableFiles table="points" />
    <el-alert v-if="!points.length" type="warning" :closable="false" role="note"
      >Say first what axles the car has.</el-alert
    >
    <template v-for="axle in ['front', 'rear']" :key="axle">
      <div v-if="drawnOf(axle).length" class="pair">
        <section v-for="one in drawnOf(axle)" :key="one.key" class="card">
          <h3>{{ one.label }}</h3>
          <CornerDrawing
            :segments="one.segments"
            :label="one.label"
            :left="one.key.endsWith('left')"
          />
        </section>
      </div>
      <FieldGroup
        v-if="of(axle).length"
        :title="axle === 'front' ? 'Front axle' : 'Rear axle'"
        :fields="of(axle)"
        prefix=""
        @saved="moveOn"
      />
    </template>
  </div>
</template>
