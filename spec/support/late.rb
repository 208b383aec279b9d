# frozen_string_literal: true

# Holds answers up, so that they come late and out of order. Off unless a spec asks for it.
class Late
  class << self
    # @param longest [Float] seconds; each answer below /api waits a part of it, by chance
    # @param seed [Integer]
    def answers(longest: 0.8, seed: 1)
      @chance = Random.new(seed)
      @longest = longest
      yield
    ensure
      @longest = nil
    end

    # @return [Float] how long the next answer waits
    def wait = @longest ? LOCK.synchronize { @chance.rand } * @longest : 0
  end

  LOCK = Mutex.new

  def initialize(app)
    @app = app
  end

  def call(env)
    answer = @app.call(env)
    sleep(self.class.wait) if env["PATH_INFO"].start_with?("/api/")
    answer
  end
end
