# frozen_string_literal: true

module Fobrel
  module Core
    module Stroke
      # Smooths the hand's tremor with the One-Euro filter (Casiez, Roussel, Vogel, CHI 2012): a
      # low-pass whose cutoff rises with speed, so that slow lines get calm and quick ones do
      # not lag.
      module Smoothing
        # The cutoff of the lightest and the strongest smoothing, in hertz.
        LIGHTEST = 30.0
        STRONGEST = 0.4
        # How much the cutoff rises with speed (hertz for each pixel a millisecond).
        BETA = 1.5
        # The cutoff of the speed's own filter, in hertz.
        SPEED_CUTOFF = 1.0

        # @param samples [Samples]
        # @param strength [Float] 0–1; 0 gives the samples back as they are
        # @return [Samples] ending where the pen ended
        def self.smooth(samples, strength)
          return samples if strength.zero? || samples.size < 3
          cutoff = LIGHTEST * (STRONGEST / LIGHTEST)**strength
          steps = steps(samples.t)
          x, y = [samples.x, samples.y].map { |axis| filter(axis, steps, cutoff) << axis.last }
          samples.pick([*0...samples.size, samples.size - 1]).with(x:, y:)
        end

        # Where time stands still, the usual report rate stands in for it.
        def self.steps(times)
          times.each_cons(2).map { |before, now| (now > before) ? now - before : Samples::STEP_MS }
        end
        private_class_method :steps

        def self.filter(axis, steps, cutoff)
          speed = 0.0
          smooth = axis.first
          rest = axis.each_cons(2).zip(steps).map do |(before, now), step|
            speed = blend(speed, (now - before) / step, SPEED_CUTOFF, step)
            smooth = blend(smooth, now, cutoff + BETA * speed.abs, step)
          end
          [axis.first, *rest]
        end
        private_class_method :filter

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
