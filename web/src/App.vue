<script setup lang="ts">
import 'element-plus/theme-chalk/base.css'
import ConnectionBar from './components/ConnectionBar.vue'
</script>

<template>
  <ConnectionBar />
  <router-view />
</template>
