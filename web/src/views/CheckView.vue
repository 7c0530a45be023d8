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
  <div ref="page" class="grid one-col gap-14px">
    <h2>Check</h2>
    <SettleBar />
    <router-link :to="{ name: 'walk-again' }" class="justify-self-start">
      One thing at a time: walk round what the job could have moved →
    </router-link>
    <CheckCar @saved="moveOn" />
    <ExplainMiss />
    <LessonsCard />
    <router-link :to="{ name: 'record' }">On to the record →</router-link>
  </div>
</template>

<style scoped>
a {
  justify-self: end;
  padding: 10px 0;
  font-weight: 600;
}
</style>
