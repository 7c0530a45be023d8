<script setup lang="ts">
import 'element-plus/theme-chalk/el-result.css'

/** An address that leads nowhere: of an older version, or typed wrong. */
</script>

<template>
  <main class="sheet">
    <el-result>
      <template #title>
        <h1>There is no page at this address</h1>
      </template>
      <template #icon>
        <img src="/mark.svg" alt="" width="72" height="72" />
      </template>
      <template #sub-title>
        <p class="text-18px">
          It may be of an older version, or cut short. Nothing was lost by coming here.
        </p>
      </template>
      <template #extra>
        <router-link :to="{ name: 'workshop' }" class="figure text-22px">
          To the workshop's board →
        </router-link>
      </template>
    </el-result>
  </main>
</template>
