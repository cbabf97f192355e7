// SPDX-License-Identifier: MIT
// Marks what a shared build of the library shows to the outside; all else is hidden.
#pragma once

#if defined(__GNUC__) && !defined(_WIN32)
#define GRAFEMA_API __attribute__((visibility("default")))
#else
#define GRAFEMA_API
#endif
