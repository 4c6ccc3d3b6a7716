"""Times commands in turn, so that a busy moment of the machine hits all of them: alternate.py RUNS COMMAND...

Prints the median of each in milliseconds, one a line. Their output is thrown away.
"""
import os
import shlex
import statistics
import sys
import time


def run(command, nothing):
    start = time.perf_counter()
    process = os.posix_spawnp(command[0], command, os.environ, file_actions=[(os.POSIX_SPAWN_DUP2, nothing, 1)])
    os.waitpid(process, 0)
    return (time.perf_counter() - start) * 1000


def medians(runs, commands):
    nothing = os.open(os.devnull, os.O_WRONLY)
    words = [shlex.split(command) for command in commands]
    times = [[] for _ in words]
    for turn in range(runs + 3):
        for at, command in enumerate(words):
            time_taken = run(command, nothing)
            if turn >= 3:
                times[at].append(time_taken)
    return [statistics.median(each) for each in times]


if __name__ == "__main__":
    for median in medians(int(sys.argv[1]), sys.argv[2:]):
        print(f"{median:.2f}")
