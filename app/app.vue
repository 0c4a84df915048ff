<template>
  <v-app>
    <!-- A journey's page is made anew for each journey, so that nothing of one is left in the next. -->
    <NuxtPage :page-key="(route) => route.fullPath" />
  </v-app>
</template>
