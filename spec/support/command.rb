# frozen_string_literal: true

require "fobrel/core"
require "stringio"
require "tmpdir"
require_relative "../../cli/command_line"

# The command line within the spec's own process, in a folder of its own.
module CommandHelp
  # @return [Array] what it said, what was wrong, its exit code
  def fobrel(*words)
    out, err = StringIO.new, StringIO.new
    status = Fobrel::CommandLine.run(words, out:, err:)
    [out.string, err.string, status]
  end
end

RSpec.configure do |config|
  config.include CommandHelp, :command
  config.around(:each, :command) { |example| Dir.mktmpdir { |folder| Dir.chdir(folder) { example.run } } }
end
