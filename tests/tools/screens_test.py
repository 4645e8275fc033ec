"""Starts a program on virtual screens with a window manager: SIZE@SCALE …, then the program. Ends with 1 when
it fails on one of them."""
import os, subprocess, sys, time

PROGRAM = sys.argv[1]
failed = []
for number, screen in enumerate(sys.argv[2:]):
    size, scale = screen.split("@")
    display = ":%d" % (190 + os.getpid() % 50 * 4 + number)
    server = subprocess.Popen(["Xvfb", display, "-screen", "0", size + "x24", "-nolisten", "tcp"], stderr=subprocess.DEVNULL)
    try:
        for _ in range(100):
            if os.path.exists("/tmp/.X11-unix/X" + display[1:]):
                break
            time.sleep(0.1)
        env = dict(os.environ, DISPLAY=display, QT_QPA_PLATFORM="xcb", QT_SCALE_FACTOR=scale)
        manager = subprocess.Popen(["openbox"], env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        time.sleep(0.5)
        done = subprocess.run([PROGRAM, "--gtest_brief=1"], env=env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, timeout=240)
        print(screen, "passed" if done.returncode == 0 else done.stdout)
        if done.returncode != 0:
            failed.append(screen)
        manager.terminate()
        manager.wait()
    finally:
        server.terminate()
        server.wait()
sys.exit(1 if failed else 0)
