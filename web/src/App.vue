<script setup lang="ts">
import ConnectionBar from './components/ConnectionBar.vue'
import { defineAsyncComponent } from 'vue'
import { useMe } from './stores/me'

const PairView = defineAsyncComponent(() => import('./views/PairView.vue'))
const store = useMe()
</script>

<template>
  <PairView v-if="store.isShutOut" />
  <template v-else>
    <ConnectionBar />
    <router-view />
  </template>
</template>
