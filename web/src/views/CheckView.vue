<script setup lang="ts">
import { ref } from 'vue'
import CheckCar from '../components/CheckCar.vue'
import ExplainMiss from '../components/ExplainMiss.vue'
import LessonsCard from '../components/LessonsCard.vue'
import SettleBar from '../components/SettleBar.vue'
import { useMoveOn } from '../composables/useMoveOn'

const page = ref<HTMLElement | null>(null)
const moveOn = useMoveOn(page)
</script>

<template>
  <div ref="page" class="check">
    <h2>Check</h2>
    <SettleBar />
    <router-link :to="{ name: 'walk-again' }" class="again">
      One thing at a time: walk round what the job could have moved →
    </router-link>
    <CheckCar @saved="moveOn" />
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
