# Sets $python to a Python of version 3.11 or newer, or says what is missing.
python=
for candidate in python3 python3.14 python3.13 python3.12 python3.11; do
    if command -v "$candidate" >/dev/null 2>&1 &&
        "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
        python=$candidate
        break
    fi
done
if [ -z "$python" ]; then
    echo "Python 3.11 or newer is needed. On Debian: sudo apt-get install -y python3 python3-venv" >&2
    exit 1
fi
