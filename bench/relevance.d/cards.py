"""Writes app cards from Debian's package lists and AppStream data: cards.py LISTS FOLDER. Used by bench/real-catalogue."""
import glob, gzip, html, os, re, subprocess, sys
import yaml

lists, folder = sys.argv[1:3]
KINDS = {"desktop-application", "console-application"}


def text(value):
    """A TOML string."""
    out = []
    for c in value:
        if c in '"\\':
            out.append("\\" + c)
        elif ord(c) == 0xFFFD:
            continue
        elif ord(c) < 32 or ord(c) == 127:
            out.append("\\n" if c == "\n" else " ")
        else:
            out.append(c)
    return '"' + "".join(out) + '"'


def plain(markup):
    """AppStream's markup without its tags."""
    markup = re.sub(r"</(p|li)>", "\n", markup)
    return "\n".join(" ".join(line.split()) for line in html.unescape(re.sub(r"<[^>]+>", " ", markup)).split("\n")).strip()


def one_line(value, most):
    return " ".join(value.split())[:most].strip()


def app_id(component):
    name = re.sub(r"[^a-z0-9.]+", "-", re.sub(r"\.desktop$", "", component).lower())
    name = re.sub(r"[-.]*\.[-.]*", ".", re.sub(r"-+", "-", name)).strip("-.")
    return name[:80].strip("-.")


def packages():
    """The newest version of each package, with its file."""
    found = {}
    for path in sorted(glob.glob(lists + "/*_Packages*")):
        content = subprocess.run(["/usr/lib/apt/apt-helper", "cat-file", path], capture_output=True, check=True).stdout
        for block in content.decode("utf-8", "replace").split("\n\n"):
            fields = dict(re.findall(r"^([A-Za-z0-9-]+): (.*)$", block, re.M))
            if "Package" in fields:
                found[fields["Package"]] = fields
    return found


def table(key, values):
    return [f"{key} = [{', '.join(text(value) for value in values)}]"] if values else []


def translations(component):
    """The localised texts, a table a language."""
    languages = {}
    for field in ("Name", "Summary", "Description", "Keywords"):
        for language, value in (component.get(field) or {}).items():
            if isinstance(language, str) and language != "C" and re.fullmatch(r"[a-z]{2,3}([_-][A-Z]{2})?(@[a-z]+)?", language) and value:
                languages.setdefault(language.replace("-", "_"), {})[field.lower()] = value
    lines = []
    for language, fields in sorted(languages.items()):
        lines.append(f"\n[translations.{text(language)}]")
        for key, most in (("name", 100), ("summary", 200)):
            if key in fields and one_line(fields[key], most):
                lines.append(f"{key} = {text(one_line(fields[key], most))}")
        if "description" in fields and plain(fields["description"]):
            lines.append(f"description = {text(plain(fields['description'])[:20000])}")
        lines += table("keywords", keywords(fields.get("keywords")))
    return lines


def keywords(values):
    seen = {}
    for value in values or []:
        word = one_line(str(value), 64)
        if word:
            seen.setdefault(word, None)
    return list(seen)


def card(component, package):
    ident = app_id(component["ID"])
    if not re.fullmatch(r"[a-z0-9]+([-.][a-z0-9]+)*", ident):
        return None
    version = re.sub(r"^\d+:", "", package["Version"]).replace("..", ".")[:64]
    if not re.match(r"^\d", version):
        return None
    lines = ["appcard = 1", f"id = {text(ident)}", f"type = {text(component['Type'])}",
             f"name = {text(one_line(component['Name']['C'], 100))}",
             f"summary = {text(one_line(component['Summary']['C'], 200))}"]
    description = plain((component.get("Description") or {}).get("C", ""))[:20000]
    if description:
        lines.append(f"description = {text(description)}")
    developer = (component.get("DeveloperName") or {}).get("C")
    if developer:
        lines.append(f"developer = {{ name = {text(one_line(developer, 100))} }}")
    lines += table("categories", [c for c in component.get("Categories") or [] if re.fullmatch(r"[A-Za-z0-9]+", c) and c in KNOWN])
    lines += table("keywords", keywords((component.get("Keywords") or {}).get("C")))
    lines += table("mimetypes", [m for m in (component.get("Provides") or {}).get("mediatypes") or [] if re.fullmatch(r"[a-z]+/[A-Za-z0-9][A-Za-z0-9.+_-]*", m)][:500])
    lines += table("system_packages", [component["Package"]])
    lines += translations(component)
    name = os.path.basename(package["Filename"])
    lines += ["\n[[releases]]", f"version = {text(version)}", "date = 2026-01-15", "\n[[releases.artifacts]]",
              'platform = "x86_64-linux-gnu"', f"location = {text(package['Filename'])}", 'format = "deb"',
              f"sha256 = {text(package['SHA256'])}", f"download_size = {package['Size']}"]
    return ident, "\n".join(lines) + "\n"


SOURCE = os.path.join(os.path.dirname(__file__), "../../src/AmberCrate.Core/Placements/DesktopCategories.cs")
KNOWN = set(" ".join(re.findall(r'"([A-Za-z0-9 ]+)"', open(SOURCE).read())).split())
known = packages()
written = set()
for path in glob.glob(lists + "/*dep11*"):
    for component in yaml.load_all(gzip.open(path), Loader=yaml.CSafeLoader):
        if component.get("Type") not in KINDS or component["Package"] not in known or "C" not in component.get("Name", {}):
            continue
        made = card(component, known[component["Package"]])
        if made is None or made[0] in written:
            continue
        written.add(made[0])
        with open(os.path.join(folder, made[0] + ".appcard.toml"), "w", encoding="utf-8") as file:
            file.write(made[1])
print(f"{len(written)} cards")
