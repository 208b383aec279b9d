# frozen_string_literal: true

require "open3"
require "rbconfig"

RSpec.describe Fobrel::Core do
  it "brings no web and no database along" do
    script = 'require "fobrel/core"; Fobrel::Core::LOADER.eager_load; ' \
      'print %w[Sinatra Rack ActiveRecord PG Puma].select { Object.const_defined?(_1) }.join(",")'
    output, status = Open3.capture2(RbConfig.ruby, "-I", File.expand_path("../lib", __dir__), "-e", script)
    expect([status.success?, output]).to eq([true, ""])
  end
end
