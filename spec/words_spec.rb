# frozen_string_literal: true

# What docs/vocabulary.md decides about the words on the screen, as far as a machine can check it.
RSpec.describe "the words on the screen" do
  root = File.expand_path("..", __dir__)
  # Words of earlier versions, each with the word that replaced it.
  replaced = {
    "Attic" => "hidden",
    "Intake" => "Import",
    "Ledger" => "History",
    "Upkeep" => "Storage",
    "Doubles" => "Duplicates",
    "seats?" => "desk",
    "editions?" => "version",
    "famil(?:y|ies)" => "category",
    "work states?" => "status",
    "recipes?" => "export template",
    "arrivals?" => "import",
    "start plans?" => "start-up plan",
    "offers?" => "proposal",
    "handed out" => "sent",
    "taken? back" => "undo, revoke or delete",
    "put back" => "deselect",
    "let go" => "discard",
    "for ever" => "no limit",
    "trial strokes?" => "sample stroke"
  }
  old = /\b(?:#{replaced.keys.join("|")})\b/i
  # Names of our own and of others, which keep their capital letters.
  names = /\b(?:Bench|Tip|Brushes|Import|Export|History|Day|Night|Map|Fobrel|Studio|Liquid|Caveat|Ctrl|Alt|Shift|Esc|
    Enter|Space|Home|End|Page|JSON|CSV|PDF|PNG|SPDX|Compare|Each|First|Act)\b/x

  # The texts of a page's part: between its tags, and in attributes that people see or hear.
  texts = lambda do |file|
    template = File.read(file)[/^<template>.*^<\/template>/m].to_s.gsub(/<!--.*?-->/m, "")
    between = template.scan(/(?<![=-])>([^<>]+)</).flatten
    said = template.scan(/\s(?:title|label|placeholder|aria-label|deed|empty|alt)="([^"]+)"/).flatten
    (between + said).map { _1.gsub(/\{\{.*?\}\}/m, " ").gsub(/\s+/, " ").strip }.grep(/[a-z]{2}/)
  end

  found = Dir.glob("#{root}/web/src/**/*.vue").sort.flat_map do |file|
    texts[file].map { |text| [file.delete_prefix("#{root}/web/src/"), text] }
  end

  it "reads the whole page" do
    expect(found.size).to be > 600
  end

  it "are those of the vocabulary" do
    expect(found.select { |_, text| text.match?(old) }).to eq([])
  end

  it "are in sentence case" do
    title = /\A[A-Z][a-z]+(?: [A-Z][a-z]+)+\z/
    expect(found.select { |_, text| text.gsub(names, "").strip.match?(title) }).to eq([])
  end

  it "begin with a capital letter on buttons, choices and heads of columns" do
    tags = "button|el-button|el-dropdown-item|el-radio|el-checkbox|th|h[1-4]|legend"
    label = /<(?:#{tags})\b(?:"[^"]*"|[^>"])*>\s*([a-z][^<{]*)/
    small = Dir.glob("#{root}/web/src/**/*.vue").sort.flat_map do |file|
      template = File.read(file)[/^<template>.*^<\/template>/m].to_s
      template.scan(label).flatten.map { |text| [File.basename(file), text.strip] }
    end
    expect(small.reject { |_, text| text.empty? || text == "fobrel" }).to eq([])
  end

  # Names that the code, the tables and the files had before.
  it "are those of the code, too" do
    gone = /(?<![a-z])(?:edition|famil(?:y|ie)|seat|arrival|ledger|attic|upkeep|recipe|intake|work_?state|trial_?stroke)
      s?(?![a-z])/ix
    files = Dir.glob("#{root}/{bin,bench,cli,core,db,demo,docs,gallery,server,spec,web/src,web/spec}/**/*")
    files += Dir.glob("#{root}/*.md")
    text = files.select { |file|
      file.match?(%r{/[\w-]+\z|\.(?:rb|ts|vue|css|md|json|ya?ml|sql|mjs|service)\z}) && File.file?(file)
    }
    known = text.reject { |file| file.match?(/CHANGELOG|vocabulary\.md|words_spec|package-lock/) }
    expect(known.size).to be > 700
    hits = known.flat_map { |file|
      File.foreach(file, encoding: "UTF-8").grep(gone).grep_v(/font/i).map { |line|
        [file.delete_prefix(root), line.strip]
      }
    }
    expect(hits).to eq([])
  end

  it "use the ellipsis and the curly apostrophe" do
    expect(found.select { |_, text| text.match?(/\.\.\.|\w'\w/) }).to eq([])
  end
end
