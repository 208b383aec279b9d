# frozen_string_literal: true

require "fileutils"
require "tmpdir"
require_relative "../server/postgres"

# A checkout works on its own database, wherever it was copied or moved to.
RSpec.describe Fobrel::Postgres do
  around do |example|
    Dir.mktmpdir("fobrel-place") do |folder|
      FileUtils.chmod(0o755, folder)
      @folder = folder
      example.run
    end
  end

  def folder(name) = File.join(@folder, name).tap { |path| FileUtils.mkdir_p(path) && FileUtils.chmod(0o755, path) }

  it "opens a copy's own cluster, never the original's, even where that is running" do
    first = described_class.new(folder("one"))
    url = first.start("kept")
    system("cp", "-a", folder("one"), File.join(@folder, "two"))
    second = described_class.new(File.join(@folder, "two"))
    other = second.start("kept")
    expect(second.place).to eq(File.join(@folder, "two/postgres"))
    expect(other[/:(\d+)\//]).not_to eq(url[/:(\d+)\//])
    second.drop("kept")
    expect(first.start("kept")).to eq(url)
    expect(File.read(File.join(@folder, "one/postgres.place"))).to eq("postgres\n")
  ensure
    [first, second].each { _1&.stop }
  end

  it "refuses a place that is not its own, and says what to do" do
    here = folder("three")
    %w[/srv/elsewhere/var/postgres /var/lib/postgresql/15/main].each do |place|
      File.write(File.join(here, "postgres.place"), "#{place}\n")
      expect {
        described_class.new(here).start("kept")
      }.to raise_error(
        described_class::Failed,
        /not this checkout’s own: #{place}.*Nothing was opened/
      )
    end
  end
end
