//! What is remembered of each instance.

use super::step::InstanceIndex;

/// A value an instance, for rules that remember.
#[derive(Clone, Debug)]
pub(crate) struct PerInstance<T>(Vec<T>);

impl<T> Default for PerInstance<T> {
    fn default() -> PerInstance<T> {
        PerInstance(Vec::new())
    }
}

impl<T: Default> PerInstance<T> {
    /// The value of an instance.
    pub(crate) fn of(&mut self, instance: InstanceIndex) -> &mut T {
        if self.0.len() <= instance.0 {
            self.0.resize_with(instance.0 + 1, T::default);
        }
        &mut self.0[instance.0]
    }

    /// The value of an instance, where there is one.
    pub(crate) fn get(&self, instance: InstanceIndex) -> Option<&T> {
        self.0.get(instance.0)
    }

    /// The values of all instances up to the last one that has been asked for.
    pub(crate) fn iter(&self) -> impl Iterator<Item = (InstanceIndex, &T)> {
        self.0.iter().enumerate().map(|(index, value)| (InstanceIndex(index), value))
    }

    /// The same, to change.
    pub(crate) fn iter_mut(&mut self) -> impl Iterator<Item = &mut T> {
        self.0.iter_mut()
    }

    /// Forgets what is known of an instance.
    pub(crate) fn forget(&mut self, instance: InstanceIndex) {
        if let Some(value) = self.0.get_mut(instance.0) {
            *value = T::default();
        }
    }
}
