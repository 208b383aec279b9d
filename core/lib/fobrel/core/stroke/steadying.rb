# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Smooths the hand's tremor with the One-Euro filter (Casiez, Roussel, Vogel, CHI 2012): a
      # low-pass whose cutoff rises with speed, so that slow lines get calm and quick ones do
      # not lag.
      module Steadying
        # The cutoff of the lightest and the strongest steadying, in hertz.
        LIGHTEST = 30.0
        STRONGEST = 0.4
        # How much the cutoff rises with speed (hertz for each pixel a millisecond).
        BETA = 1.5
        # The cutoff of the speed's own filter, in hertz.
        SPEED_CUTOFF = 1.0

        # @param samples [Samples]
        # @param strength [Float] 0–1; 0 gives the samples back as they are
        # @return [Samples] ending where the pen ended
        def self.steady(samples, strength)
          return samples if strength.zero? || samples.rows.size < 3
          cutoff = LIGHTEST * (STRONGEST / LIGHTEST)**strength
          speed = [0.0, 0.0]
          smooth = samples.rows.first.first(2)
          rows = samples.rows.each_cons(2).map do |before, now|
            # Where time stands still, the usual report rate stands in for it.
            step = now[5] - before[5]
            step = Samples::STEP_MS unless step.positive?
            smooth = [0, 1].map do |axis|
              speed[axis] = blend(speed[axis], (now[axis] - before[axis]) / step, SPEED_CUTOFF, step)
              blend(smooth[axis], now[axis], cutoff + BETA * speed[axis].abs, step)
            end
            [*smooth, *now.drop(2)]
          end
          Samples.new([samples.rows.first, *rows, samples.rows.last])
        end

        # One step of an exponential low-pass.
        def self.blend(before, now, cutoff, step_ms)
          tau = 1000.0 / (2 * Math::PI * cutoff)
          before + (now - before) / (1 + tau / step_ms)
        end
        private_class_method :blend
      end
    end
  end
end
