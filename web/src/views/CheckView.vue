<script setup lang="ts">
import { ref } from 'vue'
import { SIDES, type Side } from '../api/client'
import CheckCar from '../components/CheckCar.vue'
import CheckSide from '../components/CheckSide.vue'
import ExplainMiss from '../components/ExplainMiss.vue'
import LessonsCard from '../components/LessonsCard.vue'
import SettleBar from '../components/SettleBar.vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useJob } from '../stores/job'

const store = useJob()
const page = ref<HTMLElement | null>(null)
const moveOn = useMoveOn(page)
const of = (side: Side) =>
  store.sheet?.fields.filter((field) => field.phase === 'check' && field.side === side) ?? []
</script>

<template>
  <div ref="page" class="check">
    <h2>Check</h2>
    <SettleBar />
    <router-link :to="{ name: 'walk-again' }" class="again">
      One thing at a time: walk round what the job could have moved →
    </router-link>
    <CheckCar v-if="store.job?.kind !== 'front_strut'" @saved="moveOn" />
    <div v-else class="pair">
      <CheckSide
        v-for="side in SIDES"
        :key="side"
        :side="side"
        :fields="of(side)"
        @saved="moveOn"
      />
    </div>
    <ExplainMiss />
    <LessonsCard />
    <router-link :to="{ name: 'record' }">On to the record →</router-link>
  </div>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}

.again {
  justify-self: start;
}

a {
  justify-self: end;
  padding: 10px 0;
  font-weight: 600;
}
</style>
