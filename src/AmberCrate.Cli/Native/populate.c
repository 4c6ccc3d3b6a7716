/* Runs before the program's own start. The runtime fills the memory behind the executable's data, some MiB, from beginning to end at every start. One
   call to the kernel makes all its pages ready, where otherwise each costs a fault; that was half of the time to start. A kernel that does not know
   the call (before 5.14) refuses it, and the pages come one by one. */
#define _GNU_SOURCE
#include <link.h>
#include <stddef.h>
#include <stdint.h>
#include <sys/mman.h>

#ifndef MADV_POPULATE_WRITE
#define MADV_POPULATE_WRITE 23
#endif

enum { PageSize = 4096 };

static int populate(struct dl_phdr_info *image, size_t size, void *none)
{
    (void)size;
    (void)none;
    for (int at = 0; at < image->dlpi_phnum; at++)
    {
        const ElfW(Phdr) *part = &image->dlpi_phdr[at];
        if (part->p_type != PT_LOAD || !(part->p_flags & PF_W) || part->p_memsz - part->p_filesz < PageSize) continue;
        uintptr_t first = (image->dlpi_addr + part->p_vaddr + part->p_filesz + PageSize - 1) & ~(uintptr_t)(PageSize - 1);
        uintptr_t end = image->dlpi_addr + part->p_vaddr + part->p_memsz;
        if (end > first) madvise((void *)first, end - first, MADV_POPULATE_WRITE);
    }
    return 1; /* The first image is the executable; the libraries behind it are left alone. */
}

__attribute__((constructor)) static void before_start(void)
{
    dl_iterate_phdr(populate, NULL);
}
