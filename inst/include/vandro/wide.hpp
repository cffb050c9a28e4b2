// What a function needs to be compiled for several processors.
#ifndef VANDRO_WIDE_HPP
#define VANDRO_WIDE_HPP

// Wide registers where the machine has them. Without fused multiplication: the same digits
// everywhere.
#if defined(__GNUC__) && !defined(__clang__) && defined(__x86_64__) && defined(__ELF__) && \
    !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
#define VANDRO_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define VANDRO_WIDE
#endif

// Compiled anew for every processor that its caller is compiled for.
#define VANDRO_INLINE __attribute__((always_inline)) inline

#endif
