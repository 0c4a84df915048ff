<template>
  <v-app>
    <!-- The page is created anew for each journey, so that no state is left from another one. -->
    <NuxtPage :page-key="(route) => route.fullPath" />
  </v-app>
</template>
