<script setup lang="ts">
import 'element-plus/theme-chalk/base.css'
</script>

<template>
  <router-view />
</template>
