<script setup lang="ts">
import { computed, ref } from 'vue'
import FieldGroup from '../components/FieldGroup.vue'
import TableFiles from '../components/TableFiles.vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useCar } from '../stores/car'

const store = useCar()
const page = ref<HTMLElement | null>(null)
const moveOn = useMoveOn(page)
const points = computed(() => store.sheet?.fields.filter((one) => one.group === 'Points') ?? [])
const of = (axle: string) => points.value.filter((one) => one.axle === axle)
const read = computed(() => points.value.filter((one) => store.car!.entries[one.key]).length)
</script>

<template>
  <div ref="page" class="points">
    <header>
      <div>
        <h2>Points</h2>
        <p class="soft">
          x forward, y left, z up, from any one origin on the centre line. Right-hand points have
          negative y; “Copy left to right” on an axle's page mirrors them.
        </p>
      </div>
      <p class="figure">{{ read }} of {{ points.length }} known</p>
    </header>
    <TableFiles table="points" />
    <p v-if="!points.length" class="notice wait">Say first what axles the car has.</p>
    <template v-for="axle in ['front', 'rear']" :key="axle">
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

<style scoped>
.points {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 20px;
  align-items: center;
  justify-content: space-between;
}

header .figure {
  font-size: 22px;
  color: var(--go);
}
</style>
