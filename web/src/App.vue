<script setup lang="ts">
import 'element-plus/theme-chalk/base.css'
import ConnectionBar from './components/ConnectionBar.vue'
import { useMe } from './stores/me'
import PairView from './views/PairView.vue'

const store = useMe()
</script>

<template>
  <PairView v-if="store.isShutOut" />
  <template v-else>
    <ConnectionBar />
    <router-view />
  </template>
</template>
